import { runToEnd } from '../runToEnd'
import { addUse, costOfUse } from './columnUse'
import { minPoint, pointAtPrice } from './curves'
import { bestPaths, fullState, type Subproblem } from './subproblems'
import type { Resources } from './resources'

/** For prices on the resources: the best that each subproblem of a component can do, and how. */
interface SubproblemBound {
  /** Best priced worth of what is still to be served in each state. */
  best: Float64Array
  /** The set that comes first in it. */
  first: Int32Array
  /** The best column of each set, and its priced worth. */
  column: Int32Array
  worthOfSet: Float64Array
  /** Priced worth of each column in play, in the order of `inPlay`. */
  priced: Float64Array
}

/** The best partition of the members of every state into columns, at these prices. */
function subproblemBound(
  subproblem: Subproblem,
  prices: Float64Array,
  resources: Resources,
): SubproblemBound {
  const { inPlay, firstOfSet } = subproblem
  const priced = reducedWorths(subproblem, prices, resources)
  const sets = firstOfSet.length - 1
  const worthOfSet = new Float64Array(sets).fill(-Infinity)
  const columnOfSet = new Int32Array(sets).fill(-1)
  for (let set = 0; set < sets; set += 1)
    for (let at = firstOfSet[set]!; at < firstOfSet[set + 1]!; at += 1)
      if (priced[at]! > worthOfSet[set]!) {
        worthOfSet[set] = priced[at]!
        columnOfSet[set] = inPlay[at]!
      }
  const { best, first } = bestPaths(subproblem, worthOfSet)
  return { best, first, column: columnOfSet, worthOfSet, priced }
}

/** What each column in play is worth at its best bitrate, less the price of what it uses. Most of the planner's time goes here. */
function reducedWorths(
  { columns, curves, inPlay }: Subproblem,
  prices: Float64Array,
  resources: Resources,
): Float64Array {
  const { curve, use } = columns
  const uploadPrice = prices[resources.upload]!
  const priced = new Float64Array(inPlay.length)
  let [last, onCurve] = [-1, 0]
  for (let at = 0; at < priced.length; at += 1) {
    const column = inPlay[at]!
    // The columns of one curve stand next to each other.
    if (curve[column]! !== last) {
      last = curve[column]!
      const point = pointAtPrice(curves, last, uploadPrice)
      onCurve = curves.value[point]! - uploadPrice * curves.wire[point]!
    }
    priced[at] = onCurve - costOfUse(prices, use, column)
  }
  return priced
}

/** Adds what the best partition of a whole component uses. */
function useOfBest(
  subproblem: Subproblem,
  bound: SubproblemBound,
  prices: Float64Array,
  resources: Resources,
  used: Float64Array,
): void {
  const { columns, curves, firstMove, moveSet, moveTo } = subproblem
  for (let state = fullState(subproblem); state !== 0;) {
    const set = bound.first[state]!
    if (set < 0) return
    const column = bound.column[set]!
    used[resources.upload]! +=
      curves.wire[pointAtPrice(curves, columns.curve[column]!, prices[resources.upload]!)]!
    addUse(used, columns.use, column)
    state = moveTo[moveSet.indexOf(set, firstMove[state])]!
  }
}

export interface Bound {
  prices: Float64Array
  /** No plan is worth more. */
  upper: number
  subproblems: SubproblemBound[]
  used: Float64Array
}

/**
 * An upper bound on the worth of every plan: the resources are sold at prices instead of limited.
 * Yields between components, so that it can be stopped.
 */
export function* findingBound(
  subproblems: readonly Subproblem[],
  prices: Float64Array,
  resources: Resources,
): Generator<void, Bound> {
  let upper = 0
  for (let index = 0; index < prices.length; index += 1)
    upper += prices[index]! * resources.capacity[index]!
  const used = new Float64Array(prices.length)
  const bounds: SubproblemBound[] = []
  for (const subproblem of subproblems) {
    const bound = subproblemBound(subproblem, prices, resources)
    upper += bound.best[fullState(subproblem)]!
    useOfBest(subproblem, bound, prices, resources, used)
    bounds.push(bound)
    yield
  }
  return { prices, upper, subproblems: bounds, used }
}

/** The bound in one go; see `findingBound`. */
export const boundAt = (
  subproblems: readonly Subproblem[],
  prices: Float64Array,
  resources: Resources,
): Bound => runToEnd(findingBound(subproblems, prices, resources))

/**
 * What no plan is worth less than. A bound below it says that there is no plan at all; prices that
 * rose further would only cost precision.
 */
export const minWorthOf = (subproblems: readonly Subproblem[]): number =>
  subproblems.reduce((sum, { columns, curves, inPlay }) => {
    let least = 0
    for (const column of inPlay)
      least = Math.min(least, curves.value[minPoint(curves, columns.curve[column]!)]!)
    return sum + least * columns.members.length
  }, 0)

/** How often the price of the upload is set anew at most. */
const maxUploadPrices = 16
/** A bound so near to the lowest there can be, as a share of it, is near enough to go on from. */
const nearEnough = 1e-4

/**
 * The bound at the best price for the upload alone, all else being free. Between a price too low and
 * one high enough the next is where the tangents to the bound meet, which is where it is lowest if
 * it has no further corner. Yields between prices.
 */
export function* uploadBound(
  subproblems: readonly Subproblem[],
  resources: Resources,
): Generator<void, Bound> {
  const capacity = resources.capacity[0]!
  const at = (price: number): Generator<void, Bound> => {
    const prices = new Float64Array(resources.capacity.length)
    prices[0] = price
    return findingBound(subproblems, prices, resources)
  }
  const excess = ({ used }: Bound): number => used[0]! - capacity
  let low = yield* at(0)
  if (low.upper === -Infinity || excess(low) <= 0) return low
  let high = yield* at(Math.max(1, low.upper / Math.max(1, capacity)))
  const least = minWorthOf(subproblems)
  for (let tries = 0; tries < maxUploadPrices && excess(high) > 0; tries += 1) {
    if (high.upper < least) break
    low = high
    high = yield* at(high.prices[0]! * 4)
  }
  let best = high.upper < low.upper ? high : low
  for (let tries = 0; tries < maxUploadPrices && best.upper >= least; tries += 1) {
    const [from, to] = [low.prices[0]!, high.prices[0]!]
    const price =
      (low.upper - high.upper + from * excess(low) - to * excess(high)) /
      (excess(low) - excess(high))
    if (!(price > from && price < to)) break
    const next = yield* at(price)
    const promised = low.upper - (price - from) * excess(low)
    if (next.upper < best.upper) best = next
    if (next.upper - promised < nearEnough * Math.abs(next.upper)) break
    if (excess(next) > 0) low = next
    else high = next
  }
  return best
}
