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
  const reached: { kbps: number; count: number }[] = []
  for (const demand of demands) {
    const { owner, mustKeep, priority, count } = demand
    const weight = mustKeep ? Infinity : priority * count
    const direct = leastWireKbps(demand, isAboveFloor)
    const isReached = demand.relays.length > 0
    const kbps = isReached && direct === Infinity ? 0 : direct
    if (isReached) reached.push({ kbps, count })
    owners.set(owner, { kbps: (owners.get(owner)?.kbps ?? 0) + kbps, weight })
  }
  const places = relays.reduce((sum, { mostFed }) => sum + mostFed, 0)
  const all = [...owners.values()]
  const least = all.filter(({ kbps }) => kbps < Infinity).reduce((sum, { kbps }) => sum + kbps, 0)
  const outOfReach = all.filter(({ kbps }) => kbps === Infinity)
  const left = leftOutWeight - outOfReach.reduce((sum, { weight }) => sum + weight, 0)
  if (left < 0) return Infinity
  return least - mostFedKbps(reached, places) - mostLeftOutKbps(all, left)
}

/** What the largest take that there are places for. */
function mostFedKbps(reached: readonly { kbps: number; count: number }[], places: number): number {
  let [sum, free] = [0, places]
  for (const { kbps, count } of [...reached].sort((a, b) => b.kbps / b.count - a.kbps / a.count)) {
    const share = Math.min(1, free / count)
    sum += share * kbps
    free -= share * count
  }
  return sum
}

/** What those take at most who may be left out together. */
function mostLeftOutKbps(
  owners: readonly { kbps: number; weight: number }[],
  leftOutWeight: number,
): number {
  const inOrder = owners
    .filter(({ kbps, weight }) => kbps < Infinity && weight > 0 && weight < Infinity)
    .sort((a, b) => b.kbps / b.weight - a.kbps / a.weight)
  let [sum, left] = [0, leftOutWeight]
  for (const { kbps, weight } of inOrder) {
    const share = Math.min(1, left / weight)
    sum += share * kbps
    left -= share * weight
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
