import { type Bound, findingBound, minWorthOf } from './lagrangianBound'
import type { Subproblem } from './subproblems'
import type { Resources } from './resources'

/** A lower limit of the bound that its value and slope at one point give everywhere, over scaled prices. */
interface Cut {
  /** At prices of nothing. */
  base: number
  slope: Float64Array
}

/** A step has to bring at least this share of what it promised to be taken. */
const minKept = 0.1
/** Of one that brings this share of it the next is longer. */
const wellKept = 0.5
/** What promises less than this share of the bound is not worth looking for. */
const minPromise = 2e-7
const maxWidenings = 3
const maxCuts = 40
/** Shifts of weight between cuts, per look for the next prices. */
const maxShifts = 120

/** Worths are whole numbers, so that those about nothing are as large as 1. */
const sizeOf = (worth: number): number => Math.max(1, Math.abs(worth))

/**
 * Looks for prices at which the bound is lowest, by a proximal bundle method (Lemaréchal 1975; Kiwiel
 * 1990; from memory): the bound is convex in the prices, so that its value and slope at every point
 * tried limit it everywhere from below. The next point is the lowest of that model, held near the
 * best so far by a quadratic term. Prices are scaled by the capacities, so that all are alike.
 *
 * `wanted` is what a plan has to be worth to matter, mostly more than one that there is: a bound that is
 * no higher need not be lowered. Yields between prices.
 */
export function* bundleMethod(
  subproblems: readonly Subproblem[],
  resources: Resources,
  start: Bound,
  wanted: number | null,
  rounds: number,
): Generator<void, Bound> {
  const scales = resources.capacity.map((capacity) => 1 / Math.max(capacity, 1))
  const cutAt = ({ upper, prices, used }: Bound): Cut => {
    const slope = prices.map(
      (_, index) => (resources.capacity[index]! - used[index]!) * scales[index]!,
    )
    const base = prices.reduce(
      (sum, price, index) => sum - (slope[index]! * price) / scales[index]!,
      upper,
    )
    return { base, slope }
  }
  let best = start
  let cuts = [cutAt(start)]
  /** The mixture of cuts that the last look ended with, which the next begins with. */
  let weights = [1]
  const steepness = cuts[0]!.slope.reduce(
    (sum, slope, index) => (slope > 0 && start.prices[index] === 0 ? sum : sum + slope * slope),
    0,
  )
  if (steepness < 1e-12) return best
  const hoped = wanted === null ? sizeOf(best.upper) * 0.01 : (best.upper - wanted) * 0.5
  let reach = hoped / steepness
  const least = Math.max(wanted ?? -Infinity, minWorthOf(subproblems))
  for (let round = 0, widenings = 0; round < rounds;) {
    if (best.upper <= least) break
    const center = best.prices.map((price, index) => price / scales[index]!)
    const { at, model } = lowestOfModel(cuts, weights, center, reach)
    const promise = best.upper - model
    if (promise < minPromise * sizeOf(best.upper)) {
      // Nothing near: what is further away may still promise something.
      widenings += 1
      if (widenings > maxWidenings) break
      reach *= 10
      continue
    }
    const next = yield* findingBound(
      subproblems,
      at.map((price, index) => price * scales[index]!),
      resources,
    )
    round += 1
    if (cuts.length >= maxCuts) {
      cuts = cuts.filter((_, index) => weights[index]! > 0)
      weights = weights.filter((weight) => weight > 0)
    }
    cuts.push(cutAt(next))
    weights.push(0)
    const kept = (best.upper - next.upper) / promise
    if (kept >= minKept) best = next
    if (kept >= wellKept) reach *= 2
    else if (kept < 0) reach *= Math.max(0.2, 0.5 / (1 - kept))
  }
  return best
}

/** Where the highest of the cuts plus the square of the way from the center ÷ 2·reach is lowest, no price being negative. */
function lowestOfModel(
  cuts: readonly Cut[],
  weights: number[],
  center: Float64Array,
  reach: number,
): { at: Float64Array; model: number } {
  const size = center.length
  const slope = new Float64Array(size)
  for (let index = 0; index < cuts.length; index += 1)
    addTimes(slope, cuts[index]!.slope, weights[index]!)
  const at = new Float64Array(size)
  const values = new Float64Array(cuts.length)
  for (let shift = 0; ; shift += 1) {
    for (let index = 0; index < size; index += 1)
      at[index] = Math.max(0, center[index]! - reach * slope[index]!)
    let [highest, lowest] = [0, -1]
    for (let index = 0; index < cuts.length; index += 1) {
      const value = cuts[index]!.base + product(cuts[index]!.slope, at)
      values[index] = value
      if (value > values[highest]!) highest = index
      if (weights[index]! > 0 && (lowest < 0 || value < values[lowest]!)) lowest = index
    }
    const gap = values[highest]! - values[lowest]!
    if (shift >= maxShifts || gap <= 1e-9 * Math.abs(values[highest]!))
      return { at, model: values[highest]! }
    const [up, down] = [cuts[highest]!.slope, cuts[lowest]!.slope]
    let curvature = 0
    for (let price = 0; price < size; price += 1)
      if (at[price]! > 0) curvature += reach * (up[price]! - down[price]!) ** 2
    const amount = curvature > 0 ? Math.min(weights[lowest]!, gap / curvature) : weights[lowest]!
    weights[highest]! += amount
    weights[lowest]! -= amount
    addTimes(slope, up, amount)
    addTimes(slope, down, -amount)
  }
}

function addTimes(sums: Float64Array, amounts: Float64Array, times: number): void {
  for (let at = 0; at < sums.length; at += 1) sums[at]! += times * amounts[at]!
}

function product(a: Float64Array, b: Float64Array): number {
  let sum = 0
  for (let at = 0; at < a.length; at += 1) sum += a[at]! * b[at]!
  return sum
}
