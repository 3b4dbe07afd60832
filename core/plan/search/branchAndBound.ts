import { rememberedKnapsack } from './bitrateKnapsack'
import { boundAt, findingBound } from './lagrangianBound'
import { firstBound, boundByPartialPricing, nearlyBest } from './partialPricing'
import { curvesOf, type Subproblem } from './subproblems'
import type { Resources } from './resources'
import { proven, type SearchStatus } from './status'
import { branch } from './branching'
import { type Found, searchStructures } from './structures'
import { backOff } from './backOff'
import { coarseProgram, settledProgram, uploadProgram } from './uploadProgram'
import { reducedCostFixed, type Node } from './reducedCostFixing'

export interface Optimum {
  found: Found | null
  /** No plan is worth more than this. */
  upper: number
  /** At the prices found, whatever the search has ruled out since: no way to serve everybody, one by one or in subproblems, is worth more. */
  upperAtPrices: number
  status: SearchStatus
}

/** How much more a plan may still be worth than the one that is taken. */
interface ProofMargin {
  atFirst: number
  atLast: number
}
const exactly: ProofMargin = { atFirst: 0, atLast: 0 }

/** A plan that is there already, and stays unless another is worth more by its margin. */
interface Incumbent {
  value: number
  margin: number
}
/** So many steps, a few tenths of a second, are spent on the smaller margin. */
const patience = 1000

/** How far the look for a first plan goes. */
const stepsForFirst = 4000
/** How far a search goes before it splits its node in two instead. */
const stepsForExact = 6000
/** How often the prices are improved before the first plan is looked for, after it, and in a half of a node. */
const rounds = { first: [16, 32, 64], after: 60, half: 16 } as const
/** Which share of the gap between the first plan and the bound the first search reaches into; then so many times as far. */
const firstReach = 1 / 32
const widening = 4
/** After so many nodes the search reaches further instead, as long as it can. */
const maxVisits = 30
/** So many nodes have to stay open before programs are tried at nodes, which take longer than one of them. */
const nodesBeforePrograms = 60

/**
 * The selection of columns and bitrates that is worth most, every demand in exactly one of them.
 * Yields what it has whenever that gets better, and between nodes, so that it can be stopped. Worths
 * are whole numbers. With `isOneLookEnough` it gives up where the first quick look finds nothing; with
 * a `margin` it is content once no selection is worth so much more: little at first, and where that takes
 * long more. With an `incumbent` it finds nothing where that may stay.
 */
export function* branchAndBound(
  subproblems: readonly Subproblem[],
  resources: Resources,
  start: Found | null = null,
  {
    isOneLookEnough = false,
    margin = exactly,
    incumbent = null,
  }: { isOneLookEnough?: boolean; margin?: ProofMargin; incumbent?: Incumbent | null } = {},
): Generator<Optimum, Optimum> {
  let found = start
  const knapsack = rememberedKnapsack(curvesOf(subproblems), resources.capacity[resources.upload]!)
  const known = (): number | null => found?.value ?? incumbent?.value ?? null
  // Worths are whole, so that a better plan is better by one; half of that is left for rounding.
  const least = (): number => (known() ?? -Infinity) + Math.max(within(), 0.5)
  let steps = 0
  const within = (): number => {
    if (!found && incumbent) return incumbent.margin
    return steps < patience ? margin.atFirst : margin.atLast
  }
  let upperAtPrices = Infinity
  const ended = (): Optimum => ({
    found,
    upper: (known() ?? -Infinity) + within(),
    upperAtPrices,
    status: proven(known() !== null, within()),
  })
  const soFar = (): Optimum => ({
    found,
    upper,
    upperAtPrices,
    status: { name: 'stopped', gap: Number.isFinite(upper) ? gapTo(upper) : null },
  })
  const gapTo = (worth: number): number | null => {
    const value = known()
    return value === null ? null : worth - value
  }
  const better = (next: Found | null): boolean => {
    if (!next || (found ? next.value <= found.value : next.value < least())) return false
    found = next
    return true
  }
  /** With better prices, and without the columns that they rule out. */
  function* bounded(open: Node, times: number): Generator<void, Node> {
    // Where it shows that nothing is worth so much, it need not be lower.
    const wanted = known() === null ? null : least()
    const bound = yield* boundByPartialPricing(open, resources, wanted, times)
    return yield* reducedCostFixed({ subproblems: open.subproblems, bound }, least(), resources)
  }
  function* firstLook(
    given: Node,
    { nearly = false, countsPriced = false } = {},
  ): Generator<void, boolean> {
    const open = nearly ? yield* reducedCostFixed(given, nearlyBest(given.bound), resources) : given
    const { found: first, isExhaustive } = yield* searchStructures(
      open.subproblems,
      open.bound,
      resources,
      knapsack,
      -Infinity,
      { maxSteps: stepsForFirst, isFirstEnough: true, countsPriced },
    )
    better(first)
    return isExhaustive
  }
  /** A bound for which the upload is not priced, and often a better plan: what curves that are not concave leave open it closes. */
  function* programmed(given: Node): Generator<void, void> {
    const open = yield* reducedCostFixed(given, least(), resources)
    const program = yield* uploadProgram(open, resources)
    if (!program) return
    // It knows nothing of plans that are worth less than is asked for.
    upper = Math.min(upper, Math.max(program.upper, least()))
    better(settledProgram(open.subproblems, resources, program))
  }
  const nodePrograms = backOff(nodesBeforePrograms)
  /** The same for one node, less finely: whether it shows that nothing there is worth so much. */
  function* isRuledOut(open: Node, wanted: number): Generator<void, boolean> {
    const program = yield* uploadProgram(open, resources, coarseProgram)
    const isBetter = better(program && settledProgram(open.subproblems, resources, program))
    const isOut = program !== null && program.upper < wanted
    nodePrograms.tell(isBetter || isOut)
    return isOut
  }
  let upper = Infinity
  /** Lets others in between, with what is known so far. */
  function* steadily<Last>(run: Generator<void, Last>): Generator<Optimum, Last> {
    for (;;) {
      const { value, done } = run.next()
      if (done) return value
      steps += 1
      yield soFar()
    }
  }

  let node: Node = { subproblems, bound: yield* steadily(firstBound(subproblems, resources)) }
  upper = node.bound.upper
  if (node.bound.upper === -Infinity) {
    upperAtPrices = -Infinity
    return ended()
  }
  for (const times of known() === null ? rounds.first : []) {
    node = yield* steadily(bounded(node, times))
    upper = node.bound.upper
    yield* steadily(firstLook(node, { nearly: true }))
    if (!found && (yield* steadily(firstLook(node)))) return ended()
    if (found) break
  }
  upper = node.bound.upper
  if (known() === null && isOneLookEnough) return soFar()
  yield soFar()
  if (node.bound.upper >= least()) node = yield* steadily(bounded(node, rounds.after))
  // A plan that was given may be far from the best; the better the one that is known, the less is looked at.
  if ((start || incumbent) && node.bound.upper >= least()) {
    yield* steadily(firstLook(node, { nearly: true, countsPriced: true }))
    node = yield* steadily(bounded(node, rounds.half))
  }

  // Little is looked at while only what is nearly worth the bound is looked for, and that is mostly where the best is.
  upperAtPrices = (yield* steadily(findingBound(subproblems, node.bound.prices, resources))).upper
  upper = node.bound.upper
  if (upper < least()) return ended()
  let isProgramDue = true
  for (let reach = (upper - least()) * firstReach; ; reach *= widening) {
    const floor = Math.max(least(), upper - reach)
    const open: Node[] = [node]
    for (let visited = 0; open.length > 0; visited += 1) {
      if (visited >= maxVisits && isProgramDue) {
        isProgramDue = false
        yield* steadily(programmed(node))
      }
      if (upper <= least()) return ended()
      // With a poor plan there may be nothing so near the bound, and to be sure of that takes long.
      if (visited >= maxVisits && floor > least()) break
      const wanted = Math.max(floor, least())
      const next = yield* steadily(reducedCostFixed(open.pop()!, wanted, resources))
      if (next.bound.upper < wanted) continue
      const halves = yield* steadily(branch(next.subproblems))
      const maxSteps = halves.length > 0 ? stepsForExact : Infinity
      const exact = yield* steadily(
        searchStructures(next.subproblems, next.bound, resources, knapsack, wanted, { maxSteps }),
      )
      const before: Found | null = found
      better(exact.found)
      const isProgramOfUse = !exact.isExhaustive && !isProgramDue && nodePrograms.isDue()
      const isDone =
        exact.isExhaustive || (isProgramOfUse && (yield* steadily(isRuledOut(next, wanted))))
      if (!isDone) {
        const nodes: Node[] = []
        for (const half of halves) {
          const bound = boundAt(half, next.bound.prices, resources)
          nodes.push(yield* steadily(bounded({ subproblems: half, bound }, rounds.half)))
        }
        // The more promising half is looked at first, so it is put on top.
        nodes.sort((a, b) => a.bound.upper - b.bound.upper)
        open.push(...nodes.filter(({ bound }) => bound.upper >= wanted))
      }
      if (found !== before || open.length > 0) yield soFar()
    }
    if (open.length > 0) continue
    if (least() >= floor) break
    upper = floor
  }
  return ended()
}
