import type { Problem } from '../problem/problem'

/**
 * Where each resource stands in a row of all that a plan may use up: upload, disk, each device's load and
 * sessions, each relay once, and how much may be left out or lie below the floor.
 */
export interface ResourceLayout {
  upload: number
  disk: number
  /** Of the first device and relay; the others follow. */
  load: number
  sessions: number
  relays: number
  leftOut: number
  below: number
  count: number
}

/** The row, and how much there is of each. */
export interface Resources extends ResourceLayout {
  capacity: Float64Array
}

export function resourceLayoutOf({
  devices,
  relays: { length: relayCount },
}: Pick<Problem, 'devices' | 'relays'>): ResourceLayout {
  const load = 2
  const sessions = load + devices.length
  const relays = sessions + devices.length
  const leftOut = relays + relayCount
  const below = leftOut + 1
  return { upload: 0, disk: 1, load, sessions, relays, leftOut, below, count: below + 1 }
}

export function resourcesOf(
  problem: Problem,
  limits: { leftOutWeight: number; belowFloor: number },
): Resources {
  const { upload, disk, load, sessions, relays, leftOut, below, count } = resourceLayoutOf(problem)
  const capacity = new Float64Array(count)
  capacity[upload] = problem.uploadKbps
  capacity[disk] = problem.diskMegabytes
  problem.devices.forEach((device, index) => {
    // Loads are sums of fractions: what fills a device to the last bit may not be refused.
    capacity[load + index] = device.maxLoad + 1e-9
    capacity[sessions + index] = device.sessions ?? 1e6
  })
  problem.relays.forEach((_, index) => {
    capacity[relays + index] = 1
  })
  capacity[leftOut] = limits.leftOutWeight
  capacity[below] = limits.belowFloor
  return { upload, disk, load, sessions, relays, leftOut, below, count, capacity }
}
