import type { Problem } from '../problem/problem'

/**
 * What a plan may use up, in one row: upload, disk, each device's load and sessions, each relay once,
 * and how much may be left out or lie below the floor.
 */
export interface Resources {
  capacity: Float64Array
  upload: number
  disk: number
  load: number
  sessions: number
  relays: number
  leftOut: number
  below: number
}

export function resourcesOf(
  problem: Problem,
  most: { leftOutWeight: number; belowFloor: number },
): Resources {
  const devices = problem.devices.length
  const load = 2
  const sessions = load + devices
  const relays = sessions + devices
  const leftOut = relays + problem.relays.length
  const capacity = new Float64Array(leftOut + 2)
  capacity[0] = problem.uploadKbps
  capacity[1] = problem.diskMegabytes
  problem.devices.forEach((device, index) => {
    // Loads are sums of fractions: what fills a device to the last bit may not be refused.
    capacity[load + index] = device.mostLoad + 1e-9
    capacity[sessions + index] = device.sessions ?? 1e6
  })
  problem.relays.forEach((_, index) => {
    capacity[relays + index] = 1
  })
  capacity[leftOut] = most.leftOutWeight
  capacity[leftOut + 1] = most.belowFloor
  return { capacity, upload: 0, disk: 1, load, sessions, relays, leftOut, below: leftOut + 1 }
}
