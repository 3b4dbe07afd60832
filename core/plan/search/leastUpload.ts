import type { Choice, Demand, Problem } from '../problem/problem'

/** How much may be left out, and whether all others have to be above the floor. */
interface Terms {
  leftOutWeight: number
  isAboveFloor: boolean
}

/**
 * kb/s that every plan takes which keeps to the terms: each send at the lowest bitrate that it may have,
 * but for as many of the largest as the relays may feed, and for those who take most for what they
 * matter, the last of them in part. Where that is more than there is no plan is possible; where it is
 * less one may be. Infinite where somebody out of reach has to be kept.
 */
export function leastUploadKbps(
  { demands, relays }: Problem,
  { leftOutWeight, isAboveFloor }: Terms,
): number {
  const owners = new Map<string, { kbps: number; weight: number }>()
  const reached: { kbps: number; size: number }[] = []
  for (const demand of demands) {
    const { owner, mustKeep, priority, count } = demand
    const weight = mustKeep ? Infinity : priority * count
    const direct = leastWireKbps(demand, isAboveFloor)
    const isReached = demand.relays.length > 0
    const kbps = isReached && direct === Infinity ? 0 : direct
    if (isReached) reached.push({ kbps, size: count })
    owners.set(owner, { kbps: (owners.get(owner)?.kbps ?? 0) + kbps, weight })
  }
  const places = relays.reduce((sum, { mostFed }) => sum + mostFed, 0)
  const all = [...owners.values()]
  const outOfReach = all.filter(({ kbps }) => kbps === Infinity)
  const within = all.filter(({ kbps }) => kbps < Infinity)
  const left = leftOutWeight - outOfReach.reduce((sum, { weight }) => sum + weight, 0)
  if (left < 0) return Infinity
  const free = within.flatMap(({ kbps, weight }) =>
    weight < Infinity ? [{ kbps, size: weight }] : [],
  )
  const inAll = within.reduce((sum, { kbps }) => sum + kbps, 0)
  return inAll - mostKbps(reached, places) - mostKbps(free, left)
}

/** The most kb/s of those for whom there is room together, the last of them in part. */
function mostKbps(all: readonly { kbps: number; size: number }[], room: number): number {
  let [sum, left] = [0, room]
  for (const { kbps, size } of [...all].sort((a, b) => b.kbps / b.size - a.kbps / a.size)) {
    const share = Math.min(1, left / size)
    sum += share * kbps
    left -= share * size
  }
  return sum
}

/** What a direct send takes at the lowest bitrate that it may have; infinite where there is none. */
const leastWireKbps = ({ choices, floorUnits }: Demand, isAboveFloor: boolean): number =>
  Math.min(...choices.map((choice) => wireAtLeast(choice, isAboveFloor ? floorUnits : 0)))

function wireAtLeast({ first, scores, wireKbps }: Choice, units: number): number {
  const at = scores.findIndex((score) => score >= Math.max(0, units))
  const kbps = at < 0 ? -1 : wireKbps[first + at]!
  return kbps < 0 ? Infinity : kbps
}
