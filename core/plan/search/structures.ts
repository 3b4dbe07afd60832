import { solveKnapsack } from './bitrateKnapsack'
import { belowCount, bestRestOf } from './bestRest'
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

/** A step takes some microseconds, so that a search can be stopped every few milliseconds. */
const stepsBetweenYields = 500

/**
 * Looks for the best plan worth at least `floor`, group by group, the most promising first: who
 * shares what in which shape on which device, as far as the resources reach, and for each way that
 * the bound does not rule out the best bitrates. Yields now and then, so that it can be stopped.
 */
export function* searchStructures(
  subproblems: readonly Subproblem[],
  bound: Bound,
  resources: Resources,
  floor: number,
  { maxSteps = Infinity, isFirstEnough = false } = {},
): Generator<void, StructureSearch> {
  const { capacity } = resources
  const curves = subproblems[0]?.curves
  let found: Found | null = null
  let least = floor
  let steps = 0
  let isStopped = false

  // Who is below the floor is counted exactly, and so has no price here.
  const count = belowCount(subproblems, resources)
  const belowPrice = count.isCounted ? bound.prices[resources.below]! : 0
  const priced = subproblems.map(({ columns, inPlay }, index) =>
    bound.subproblems[index]!.priced.map(
      (worth, at) => worth + belowPrice * columns.below[inPlay[at]!]!,
    ),
  )
  const minWireAt = ({ columns, curves: own, inPlay }: Subproblem, at: number): number =>
    own.wire[minPoint(own, columns.curve[inPlay[at]!]!)]!
  const bestPriced = bestRestOf(subproblems, count, (subproblem, at) => priced[subproblem]![at]!)
  const minWire = bestRestOf(
    subproblems,
    count,
    (subproblem, at) => -minWireAt(subproblems[subproblem]!, at),
  )
  const orders = subproblems.map((subproblem, index) => ordersOf(subproblem, priced[index]!))
  const sold = capacity.reduce(
    (sum, amount, index) =>
      count.isCounted && index === resources.below ? sum : sum + bound.prices[index]! * amount,
    0,
  )
  const used = new Float64Array(capacity.length)
  const chosen: { subproblem: number; column: number }[] = []

  const settle = (): void => {
    if (!curves) {
      found ??= { value: 0, chosen: [] }
      return
    }
    const own = chosen.map(
      ({ subproblem, column }) => subproblems[subproblem]!.columns.curve[column]!,
    )
    const settled = solveKnapsack(curves, own, capacity[resources.upload]!, least)
    if (!settled) return
    found = {
      value: settled.value,
      chosen: chosen.map((each, index) => ({ ...each, point: settled.points[index]! })),
    }
    least = settled.value + 0.5
    isStopped = isFirstEnough
  }

  function* visit(
    index: number,
    state: number,
    pricedSoFar: number,
    wire: number,
  ): Generator<void, void> {
    if (state === 0) {
      const next = index + 1
      if (next < subproblems.length)
        yield* visit(next, fullState(subproblems[next]!), pricedSoFar, wire)
      else {
        settle()
        yield
      }
      return
    }
    const subproblem = subproblems[index]!
    const { columns, inPlay, firstMove, moveSet, moveTo } = subproblem
    const pricedHere = priced[index]!
    const belowLeft = count.isCounted ? count.max - used[resources.below]! : 0
    const bestAfter = bestPriced(index, belowLeft)
    const promising: { order: Int32Array; after: number; upper: number }[] = []
    for (let move = firstMove[state]!; move < firstMove[state + 1]!; move += 1) {
      const order = orders[index]![moveSet[move]!]!
      const after = moveTo[move]!
      const upper = pricedSoFar + pricedHere[order[0]!]! + bestAfter[after]!
      if (upper >= least) promising.push({ order, after, upper })
    }
    promising.sort((a, b) => b.upper - a.upper)
    for (const { order, after } of promising)
      for (const place of order) {
        const own = pricedSoFar + pricedHere[place]!
        if (own + bestAfter[after]! < least) break
        const column = inPlay[place]!
        const below = belowLeft - (count.isCounted ? columns.below[column]! : 0)
        if (below < 0 || own + bestPriced(index, below)[after]! < least) continue
        const ownWire = wire + minWireAt(subproblem, place)
        if (ownWire - minWire(index, below)[after]! > capacity[resources.upload]!) continue
        steps += 1
        if (steps > maxSteps) isStopped = true
        if (isStopped) return
        if (steps % stepsBetweenYields === 0) yield
        addUse(used, columns.use, column)
        if (isWithin(capacity, used, columns.use, column)) {
          chosen.push({ subproblem: index, column })
          yield* visit(index, after, own, ownWire)
          chosen.pop()
        }
        addUse(used, columns.use, column, -1)
        if (isStopped) return
      }
  }

  yield* visit(-1, 0, sold, 0)
  return { found, isExhaustive: !isStopped, steps }
}

/** The columns of each set, as places in `inPlay`, the best priced first. */
const ordersOf = ({ firstOfSet }: Subproblem, priced: Float64Array): Int32Array[] =>
  Array.from({ length: firstOfSet.length - 1 }, (_, set) => {
    const length = firstOfSet[set + 1]! - firstOfSet[set]!
    const order = Int32Array.from({ length }, (_, at) => firstOfSet[set]! + at)
    return order.sort((a, b) => priced[b]! - priced[a]!)
  })
