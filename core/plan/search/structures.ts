import type { KnapsackSolver, Work } from './bitrateKnapsack'
import { bestRestOf, countedUses, countingOf, wholeBudget } from './bestRest'
import { addUse, isWithin } from './columnUse'
import type { Bound } from './lagrangianBound'
import { minPoint } from './curves'
import { fullState, type Subproblem } from './subproblems'
import type { Resources } from './resources'

/** A column chosen, and the point on its curve. */
export interface Chosen {
  subproblem: number
  column: number
  point: number
}

export interface Found {
  value: number
  chosen: Chosen[]
}

export interface StructureSearch {
  found: Found | null
  /** Whether everything worth at least `floor` was looked at. */
  isExhaustive: boolean
  steps: number
}

interface Limits {
  maxSteps?: number
  isFirstEnough?: boolean
  /** Whether few and whole resources that have a price are counted instead; it takes a while, and finds better plans sooner. */
  countsPriced?: boolean
}

/** A look takes some microseconds, so that a search can be stopped every few milliseconds. */
const looksBetweenYields = 3000

/**
 * Looks for the best plan worth at least `floor`, group by group, the most promising first: who
 * shares what in which shape on which device, as far as the resources reach, and for each way that
 * the bound does not rule out the best bitrates. Yields now and then, so that it can be stopped.
 */
export function* searchStructures(
  subproblems: readonly Subproblem[],
  bound: Bound,
  resources: Resources,
  solveKnapsack: KnapsackSolver,
  floor: number,
  { maxSteps = Infinity, isFirstEnough = false, countsPriced = !isFirstEnough }: Limits = {},
): Generator<void, StructureSearch> {
  const { capacity } = resources
  let found: Found | null = null
  let least = floor
  let steps = 0
  /** Since the last chance to stop. */
  const work: Work = { looks: 0 }
  let isStopped = false

  // What is counted exactly has no price here.
  const counting = countingOf(subproblems, resources, countsPriced ? bound.prices : null)
  const uses = yield* countedUses(subproblems, counting)
  const isPriced = new Uint8Array(capacity.length).fill(1)
  for (const { resource } of counting.counted) isPriced[resource] = 0
  const priced = subproblems.map(({ columns: { use }, inPlay }, index) =>
    bound.subproblems[index]!.priced.map((worth, at) => {
      const column = inPlay[at]!
      let sum = worth
      for (let entry = use.first[column]!; entry < use.first[column + 1]!; entry += 1)
        if (isPriced[use.resource[entry]!] === 0)
          sum += bound.prices[use.resource[entry]!]! * use.amount[entry]!
      return sum
    }),
  )
  yield
  const minWireAt = ({ columns, curves: own, inPlay }: Subproblem, at: number): number =>
    own.wire[minPoint(own, columns.curve[inPlay[at]!]!)]!
  const bestPriced = yield* bestRestOf(
    subproblems,
    counting,
    uses,
    (subproblem, at) => priced[subproblem]![at]!,
  )
  const minWire = yield* bestRestOf(
    subproblems,
    counting,
    uses,
    (subproblem, at) => -minWireAt(subproblems[subproblem]!, at),
  )
  yield
  const orders: Int32Array[][] = []
  for (const [index, subproblem] of subproblems.entries())
    orders.push(yield* ordersOf(subproblem, priced[index]!))
  const sold = capacity.reduce(
    (sum, amount, index) => (isPriced[index] === 0 ? sum : sum + bound.prices[index]! * amount),
    0,
  )
  const used = new Float64Array(capacity.length)
  const chosen: { subproblem: number; column: number }[] = []

  const settle = (): void => {
    const own = chosen.map(
      ({ subproblem, column }) => subproblems[subproblem]!.columns.curve[column]!,
    )
    const settled = solveKnapsack(own, least, work)
    if (!settled) return
    found = {
      value: settled.value,
      chosen: chosen.map((each, index) => ({ ...each, point: settled.points[index]! })),
    }
    least = settled.value + 0.5
    isStopped = isFirstEnough
  }

  const isTime = (): boolean => {
    if (work.looks <= looksBetweenYields) return false
    work.looks = 0
    return true
  }

  function* visit(
    index: number,
    state: number,
    pricedSoFar: number,
    wire: number,
    budget: number,
  ): Generator<void, void> {
    if (state === 0) {
      const next = index + 1
      if (next < subproblems.length)
        yield* visit(next, fullState(subproblems[next]!), pricedSoFar, wire, budget)
      else {
        settle()
        if (isTime()) yield
      }
      return
    }
    const subproblem = subproblems[index]!
    const { columns, inPlay, firstMove, moveSet, moveTo } = subproblem
    const pricedHere = priced[index]!
    const bestAfter = bestPriced(index, budget)
    const promising: { order: Int32Array; after: number; upper: number }[] = []
    for (let move = firstMove[state]!; move < firstMove[state + 1]!; move += 1) {
      const order = orders[index]![moveSet[move]!]!
      const after = moveTo[move]!
      const upper = pricedSoFar + pricedHere[order[0]!]! + bestAfter[after]!
      if (upper >= least) promising.push({ order, after, upper })
    }
    work.looks += firstMove[state + 1]! - firstMove[state]!
    promising.sort((a, b) => b.upper - a.upper)
    for (const { order, after } of promising)
      for (const place of order) {
        work.looks += 1
        if (isTime()) yield
        const own = pricedSoFar + pricedHere[place]!
        if (own + bestAfter[after]! < least) break
        const column = inPlay[place]!
        const { fits, budget: taken } = uses[index]![place]!
        const left = budget - taken
        if (fits[budget] === 0 || own + bestPriced(index, left)[after]! < least) continue
        const ownWire = wire + minWireAt(subproblem, place)
        if (ownWire - minWire(index, left)[after]! > capacity[resources.upload]!) continue
        steps += 1
        if (steps > maxSteps) isStopped = true
        if (isStopped) return
        addUse(used, columns.use, column)
        if (isWithin(capacity, used, columns.use, column)) {
          chosen.push({ subproblem: index, column })
          yield* visit(index, after, own, ownWire, left)
          chosen.pop()
        }
        addUse(used, columns.use, column, -1)
        if (isStopped) return
      }
  }

  yield* visit(-1, 0, sold, 0, wholeBudget(counting))
  return { found, isExhaustive: !isStopped, steps }
}

/** So many columns are put in order in a few milliseconds. */
const columnsBetweenYields = 4000

/** The columns of each set, as places in `inPlay`, the best priced first. Yields now and then, so that it can be stopped. */
function* ordersOf(
  { firstOfSet }: Subproblem,
  priced: Float64Array,
): Generator<void, Int32Array[]> {
  const orders: Int32Array[] = []
  let since = 0
  for (let set = 0; set + 1 < firstOfSet.length; set += 1) {
    const [first, end] = [firstOfSet[set]!, firstOfSet[set + 1]!]
    const order = new Int32Array(end - first)
    for (let at = first; at < end; at += 1) order[at - first] = at
    orders.push(order.sort((a, b) => priced[b]! - priced[a]!))
    since += end - first
    if (since < columnsBetweenYields) continue
    since = 0
    yield
  }
  return orders
}
