import type { Problem } from '../problem/problem'
import { type KnapsackSolver, solveKnapsack } from './bitrateKnapsack'
import { boundAt, uploadBound } from './lagrangianBound'
import type { Columns, ColumnsAndCurves } from './columns'
import { CurveWriter, minPoint } from './curves'
import { setLabels } from './labelSetting'
import { curvesOf, type Subproblem, subproblemOf } from './subproblems'
import { type Resources, resourcesOf } from './resources'
import { bundleMethod } from './bundleMethod'
import { nothingKnown, proven, type SearchStatus } from './status'
import { branch } from './branching'
import { type Found, searchStructures } from './structures'
import { reducedCostFixed, type Node } from './reducedCostFixing'

/** How far a search goes that has to be exact before it splits its node in two instead. */
const exactLimits = { each: Infinity, inAll: 40_000, columns: Infinity, ofKind: Infinity }
/** How well the bound is made before each quick look for a good plan, and how wide that is: with a poor bound any look is in vain. */
const quickLooks = [
  { rounds: 60, each: 8 },
  { rounds: 30, each: 48 },
] as const

/** How many steps are spent on finding a plan that falls short by no more than the bound says it has to. */
const stepsForTarget = 20_000
/** How far a node is searched before labels are set. */
const stepsForNode = 5000

/**
 * After so many nodes the search is given up, and what it has is not proven; sooner where it could not be
 * in any case, since not all columns are there.
 */
const maxNodes = { complete: 100, incomplete: 4 } as const
const rounding = 1e-4

export interface Shortfall {
  /** Its points are of the curves that were given, each the lowest. */
  found: Found | null
  status: SearchStatus
}

/** What a plan is to have least of, with how much of each a column has. */
export type ShortfallAim = 'leftOutWeight' | 'below'

/**
 * The plan that has least of what is aimed at, whatever its scores: columns are worth nothing but
 * what they fall short, and every encode has its lowest bitrate. `start` is a plan that there is, and
 * `least` what every plan is known to fall short by. While it is settled who is left out, how many may
 * be below the floor has to be without a limit.
 * Yields the best plan so far now and then, so that it can be stopped.
 */
export function* leastShortfall(
  { components, curves }: ColumnsAndCurves,
  aim: ShortfallAim,
  resources: Resources,
  { start = null, least = 0 }: { start?: Found | null; least?: number } = {},
): Generator<Found | null, Shortfall> {
  let found: Found | null = start && {
    ...start,
    value: -start.chosen.reduce(
      (sum, { subproblem, column }) => sum + components[subproblem]![aim][column]!,
      0,
    ),
  }
  // Shortfalls are small whole numbers: better is better by one, but for rounding in the bound.
  const floor = (): number => (found ? found.value + 1 - rounding : -Infinity)
  const isLeast = (): boolean => found !== null && found.value >= -least
  const known = (): number | null => found?.value ?? null
  const better = (next: Found | null): void => {
    if (next && (!found || next.value > found.value)) found = next
  }
  const shown = (): Found | null => found && asGiven(found, { components, curves })
  /** Lets others in between, with the best plan so far. */
  function* steadily<Last>(run: Generator<void, Last>): Generator<Found | null, Last> {
    let last = found
    let said = shown()
    for (;;) {
      const { value, done } = run.next()
      if (done) return value
      if (found !== last) said = shown()
      last = found
      yield said
    }
  }
  function* improved({ subproblems: within, bound }: Node, rounds: number): Generator<void, Node> {
    const low = yield* bundleMethod(within, resources, bound, known(), rounds)
    return yield* reducedCostFixed({ subproblems: within, bound: low }, floor(), resources)
  }

  const subproblems = yield* steadily(frugalSubproblems({ components, curves }, aim, resources))
  const uploadKbps = resources.capacity[resources.upload]!
  const knapsack: KnapsackSolver = (chosen, lowest, work) =>
    solveKnapsack(curvesOf(subproblems), chosen, uploadKbps, lowest, work)
  let node: Node = { subproblems, bound: yield* steadily(uploadBound(subproblems, resources)) }
  for (const { rounds, each } of quickLooks) {
    if (isLeast() || node.bound.upper < floor()) break
    node = yield* steadily(improved(node, rounds))
    // What is as good as the bound rounded is the best.
    const target = Math.min(Math.floor(node.bound.upper + rounding), -least) - rounding
    const steps = { maxSteps: stepsForTarget, isFirstEnough: true, countsPriced: true }
    better(
      (yield* steadily(
        searchStructures(node.subproblems, node.bound, resources, knapsack, target, steps),
      )).found,
    )
    if (isLeast() || node.bound.upper < floor()) break
    const limits = { each, inAll: 40 * exactLimits.inAll, columns: 6 + each / 8, ofKind: 2 }
    better(
      (yield* steadily(setLabels(node.subproblems, node.bound, resources, floor(), limits))).found,
    )
    yield shown()
  }
  const isComplete = components.every((columns) => columns.isComplete)
  const most = isComplete ? maxNodes.complete : maxNodes.incomplete
  const open: Node[] = isLeast() ? [] : [node]
  for (let nodes = 0; open.length > 0 && nodes < most; nodes += 1) {
    const next = yield* steadily(reducedCostFixed(open.pop()!, floor(), resources))
    if (next.bound.upper < floor()) continue
    const searched = yield* steadily(
      searchStructures(next.subproblems, next.bound, resources, knapsack, floor(), {
        maxSteps: stepsForNode,
      }),
    )
    better(searched.found)
    if (isLeast()) open.length = 0
    if (isLeast() || searched.isExhaustive) continue
    const exact = yield* steadily(
      setLabels(next.subproblems, next.bound, resources, floor(), exactLimits),
    )
    better(exact.found)
    yield shown()
    if (isLeast()) open.length = 0
    if (isLeast() || exact.isExhaustive) continue
    const halves: Node[] = []
    for (const half of yield* steadily(branch(next.subproblems)))
      halves.push(
        yield* steadily(
          improved({ subproblems: half, bound: boundAt(half, next.bound.prices, resources) }, 8),
        ),
      )
    // The more promising half is looked at first, so it is put on top.
    halves.sort((a, b) => a.bound.upper - b.bound.upper)
    open.push(...halves.filter(({ bound }) => bound.upper >= floor()))
  }
  return {
    found: found && asGiven(found, { components, curves }),
    status: open.length === 0 ? proven(found !== null) : nothingKnown,
  }
}

/** The same plan with the points of the curves that were given, each the lowest. */
function asGiven({ chosen }: Found, { components, curves }: ColumnsAndCurves): Found {
  const given = chosen.map(({ subproblem, column }) => ({
    subproblem,
    column,
    point: minPoint(curves, components[subproblem]!.curve[column]!),
  }))
  return { value: given.reduce((sum, { point }) => sum + curves.value[point]!, 0), chosen: given }
}

/** Of the columns for the same demands and device only those that use least. */
function* frugalSubproblems(
  { components, curves }: ColumnsAndCurves,
  aim: ShortfallAim,
  resources: Resources,
): Generator<void, Subproblem[]> {
  const maxLeftOut = resources.capacity[resources.leftOut]!
  const writer = new CurveWriter()
  const frugal: { columns: Columns; inPlay: Int32Array }[] = []
  for (const columns of components) {
    const minWire = new Int32Array(columns.count)
    const curve = new Int32Array(columns.count)
    for (let column = 0; column < columns.count; column += 1) {
      if (column % columnsBetweenYields === 0) yield
      minWire[column] = curves.wire[minPoint(curves, columns.curve[column]!)]!
      writer.add(minWire[column]!, -columns[aim][column]!, -1)
      curve[column] = writer.end()!
    }
    const inPlay = yield* mostFrugal(columns, minWire, aim)
    frugal.push({
      columns: { ...columns, curve },
      inPlay: inPlay.filter((column) => columns.leftOutWeight[column]! <= maxLeftOut),
    })
  }
  const single = writer.finish()
  const subproblems: Subproblem[] = []
  for (const { columns, inPlay } of frugal)
    subproblems.push(yield* subproblemOf(columns, single, inPlay))
  return subproblems
}

/** So many columns are looked at between two chances to stop. */
const columnsBetweenYields = 8000

function* mostFrugal(
  columns: Columns,
  minWire: Int32Array,
  aim: ShortfallAim,
): Generator<void, Int32Array> {
  const { mask, device, relays, load, disk, leftOutWeight } = columns
  const short = columns[aim]
  const isAsFrugal = (a: number, b: number): boolean =>
    minWire[a]! <= minWire[b]! &&
    load[a]! <= load[b]! &&
    disk[a]! <= disk[b]! &&
    short[a]! <= short[b]! &&
    leftOutWeight[a]! <= leftOutWeight[b]!
  const fronts = new Map<string, number[]>()
  for (let column = 0; column < columns.count; column += 1) {
    if (column % columnsBetweenYields === 0) yield
    const key = `${mask[column]} ${device[column]} ${relays[column]}`
    const front = fronts.get(key) ?? []
    if (front.some((kept) => isAsFrugal(kept, column))) continue
    fronts.set(key, [...front.filter((kept) => !isAsFrugal(column, kept)), column])
  }
  // By number, and so by mask.
  return Int32Array.from([...fronts.values()].flat()).sort()
}

/** No matter how much is left out or below the floor. */
export const noLimit = 1e6

/** The plan that leaves out least. */
export const minLeftOut = (
  problem: Problem,
  all: ColumnsAndCurves,
  start: Found | null,
): Generator<Found | null, Shortfall> =>
  leastShortfall(
    all,
    'leftOutWeight',
    resourcesOf(problem, { leftOutWeight: noLimit, belowFloor: noLimit }),
    { start },
  )
