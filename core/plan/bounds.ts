import type { Columns } from './columns'
import { pointAtPrice } from './curves'
import { bestPaths, fullState, type Part } from './parts'
import type { Resources } from './resources'

/** For prices on the resources: the best that each part of a component can do, and how. */
export interface PartBound {
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

/** The price of what a column uses of all but the upload. */
function priceOf(
  columns: Columns,
  column: number,
  prices: Float64Array,
  resources: Resources,
): number {
  let price =
    prices[1]! * columns.disk[column]! +
    prices[resources.leftOut]! * columns.leftOutWeight[column]! +
    prices[resources.below]! * columns.below[column]!
  const device = columns.device[column]!
  if (device >= 0)
    price +=
      prices[resources.load + device]! * columns.load[column]! +
      prices[resources.sessions + device]!
  for (let bits = columns.relays[column]!, relay = 0; bits > 0; bits >>= 1, relay += 1)
    if (bits & 1) price += prices[resources.relays + relay]!
  return price
}

/** Adds what a column uses of all but the upload; `times` -1 takes it away again. */
export function use(
  used: Float64Array,
  columns: Columns,
  column: number,
  resources: Resources,
  times = 1,
): void {
  used[1]! += times * columns.disk[column]!
  used[resources.leftOut]! += times * columns.leftOutWeight[column]!
  used[resources.below]! += times * columns.below[column]!
  const device = columns.device[column]!
  if (device >= 0) {
    used[resources.load + device]! += times * columns.load[column]!
    used[resources.sessions + device]! += times
  }
  for (let bits = columns.relays[column]!, relay = 0; bits > 0; bits >>= 1, relay += 1)
    if (bits & 1) used[resources.relays + relay]! += times
}

/** The best partition of the members of every state into columns, at these prices. */
function partBound(part: Part, prices: Float64Array, resources: Resources): PartBound {
  const { columns, curves, inPlay, firstOfSet } = part
  const uploadPrice = prices[0]!
  const sets = firstOfSet.length - 1
  const priced = new Float64Array(inPlay.length)
  const worthOfSet = new Float64Array(sets)
  const columnOfSet = new Int32Array(sets)
  let [curve, onCurve] = [-1, 0]
  for (let set = 0; set < sets; set += 1) {
    let [most, chosen] = [-Infinity, -1]
    for (let at = firstOfSet[set]!; at < firstOfSet[set + 1]!; at += 1) {
      const column = inPlay[at]!
      // The columns of one curve stand next to each other.
      if (columns.curve[column]! !== curve) {
        curve = columns.curve[column]!
        const point = pointAtPrice(curves, curve, uploadPrice)
        onCurve = curves.value[point]! - uploadPrice * curves.wire[point]!
      }
      const worth = onCurve - priceOf(columns, column, prices, resources)
      priced[at] = worth
      if (worth > most) {
        most = worth
        chosen = column
      }
    }
    worthOfSet[set] = most
    columnOfSet[set] = chosen
  }
  return { ...bestPaths(part, worthOfSet), column: columnOfSet, worthOfSet, priced }
}

/** Adds what the best partition of a whole component uses. */
function useOfBest(
  part: Part,
  bound: PartBound,
  prices: Float64Array,
  resources: Resources,
  used: Float64Array,
): void {
  const { columns, curves, firstMove, moveSet, moveTo } = part
  for (let state = fullState(part); state !== 0;) {
    const set = bound.first[state]!
    if (set < 0) return
    const column = bound.column[set]!
    used[0]! += curves.wire[pointAtPrice(curves, columns.curve[column]!, prices[0]!)]!
    use(used, columns, column, resources)
    state = moveTo[moveSet.indexOf(set, firstMove[state])]!
  }
}

export interface Bound {
  prices: Float64Array
  /** No plan is worth more. */
  most: number
  parts: PartBound[]
  used: Float64Array
}

/** An upper bound on the worth of every plan: the resources are sold at prices instead of limited. */
export function boundAt(parts: readonly Part[], prices: Float64Array, resources: Resources): Bound {
  let most = 0
  for (let index = 0; index < prices.length; index += 1)
    most += prices[index]! * resources.capacity[index]!
  const used = new Float64Array(prices.length)
  const bounds = parts.map((part) => {
    const bound = partBound(part, prices, resources)
    most += bound.best[fullState(part)]!
    useOfBest(part, bound, prices, resources, used)
    return bound
  })
  return { prices, most, parts: bounds, used }
}

/** Steps that could lower the bound by no more than this share of it are not worth taking. */
const leastReach = 2e-6

/**
 * Looks for prices at which the bound is low, along the subgradient. A step is as long as would take
 * the bound down to a level; the level comes nearer whenever it turns out to be out of reach. No
 * level lies below `known`, the worth of a plan that there is.
 */
export function lowBound(
  parts: readonly Part[],
  resources: Resources,
  start: Bound,
  known: number | null,
  rounds: number,
): Bound {
  const { capacity } = resources
  let best = start
  let at = start
  const level = (): number => Math.max(best.most - reach, known ?? -Infinity)
  let reach = known === null ? Math.max(1, Math.abs(best.most) * 0.03) : (best.most - known) * 0.3
  let walked = 0
  for (let round = 0; round < rounds; round += 1) {
    if (known !== null && best.most <= known) break
    if (reach < leastReach * Math.abs(best.most)) break
    let length = 0
    const slope = new Float64Array(capacity.length)
    for (let index = 0; index < capacity.length; index += 1) {
      const excess = (at.used[index]! - capacity[index]!) / Math.max(capacity[index]!, 1)
      // A price of nothing cannot fall further.
      slope[index] = excess < 0 && at.prices[index] === 0 ? 0 : excess
      length += slope[index]! * slope[index]!
    }
    if (length < 1e-12) break
    const step = (at.most - level()) / length
    const prices = at.prices.map((price, index) =>
      Math.max(0, price + (step * slope[index]!) / Math.max(capacity[index]!, 1)),
    )
    at = boundAt(parts, prices, resources)
    if (at.most < best.most - 0.25 * reach) walked = 0
    else walked += 1
    if (at.most < best.most) best = at
    if (walked >= 2) {
      reach *= 0.5
      walked = 0
      at = best
    }
  }
  return best
}

/** How often the price of the upload is set anew at most. */
const mostUploadPrices = 16

/**
 * The bound at the best price for the upload alone, all else being free. Between a price too low and
 * one high enough the next is where the tangents to the bound meet, which is where it is lowest if
 * it has no further corner.
 */
export function uploadBound(parts: readonly Part[], resources: Resources): Bound {
  const capacity = resources.capacity[0]!
  const at = (price: number): Bound => {
    const prices = new Float64Array(resources.capacity.length)
    prices[0] = price
    return boundAt(parts, prices, resources)
  }
  const excess = ({ used }: Bound): number => used[0]! - capacity
  let low = at(0)
  if (low.most === -Infinity || excess(low) <= 0) return low
  let high = at(Math.max(1, low.most / Math.max(1, capacity)))
  for (let tries = 0; tries < mostUploadPrices && excess(high) > 0; tries += 1) {
    low = high
    high = at(high.prices[0]! * 4)
  }
  let best = high.most < low.most ? high : low
  for (let tries = 0; tries < mostUploadPrices; tries += 1) {
    const [from, to] = [low.prices[0]!, high.prices[0]!]
    const price =
      (low.most - high.most + from * excess(low) - to * excess(high)) / (excess(low) - excess(high))
    if (!(price > from && price < to)) break
    const next = at(price)
    const promised = low.most - (price - from) * excess(low)
    if (next.most < best.most) best = next
    if (next.most - promised < 1e-6 * Math.abs(next.most)) break
    if (excess(next) > 0) low = next
    else high = next
  }
  return best
}
