import { isIn } from './bitSets'
import { type Subproblem, subproblemOf } from './subproblems'
import { type ColumnChoice, type ColumnsAndCurves, columnsAndCurves, type Weights } from './columns'
import { aggregated, disaggregated } from './symmetry'
import { solveKnapsack } from './bitrateKnapsack'
import { greedyPlan, raised, selectionOf } from './greedy'
import { keptPlan } from './lastPlan'
import { type Encode, encodesOfSolution, EncodeUses, solutionOfEncodes } from './planState'
import { lexicographicPhase } from './lexicographic'
import { isCutAtFirst, type Look, type SearchedComponent, searchedComponents } from './components'
import { type Optimum, branchAndBound } from './branchAndBound'
import { runToEnd } from '../runToEnd'
import type { Assignment, PlannedEncode, Problem, Solution, Worth } from '../problem/problem'
import { noPreferences, type Preferences } from '../problem/preferences'
import { leastUploadKbps } from './leastUpload'
import { resourcesOf } from './resources'
import { leastShortfall, type Shortfall } from './shortfall'
import { nothingKnown, proven, type SearchStatus, worthLess } from './status'
import type { Found } from './structures'

export interface Progress {
  /** The best plan so far; null before there is one. */
  solution: Solution | null
  /** Its gap is in score units. */
  status: SearchStatus
}

/** The share of the margin in which the best need not be told from the next, unless that takes long; the rest is left to choose in. */
const shareForProof = 1 / 4
const shareAtLast = 3 / 4

function weightsOf({ uploadKbps, demands, bitratesKbps }: Problem): Weights {
  const recordings = demands.reduce(
    (sum, { sound, count }) => sum + (sound === null ? count : 0),
    0,
  )
  const maxKbps = uploadKbps + (bitratesKbps.at(-1) ?? 0) * recordings + 1
  return { encode: maxKbps, scoreUnit: maxKbps * (demands.length + 1) }
}

/** What a plan is worth in a search. */
const valueOf = ({ worth }: Solution, { scoreUnit, encode }: Weights): number =>
  worth.scoreUnits * scoreUnit - worth.encodes * encode - worth.kbps

/** Without anybody left out or below the floor, or with at most so many. */
function* subproblemsFor(
  { components, curves }: ColumnsAndCurves,
  limits: { leftOutWeight: number; belowFloor: number },
): Generator<void, Subproblem[]> {
  const subproblems: Subproblem[] = []
  for (const columns of components) {
    const { count, leftOutWeight, below } = columns
    const inPlay = new Int32Array(count)
    let length = 0
    for (let column = 0; column < count; column += 1)
      if (leftOutWeight[column]! <= limits.leftOutWeight && below[column]! <= limits.belowFloor)
        inPlay[length++] = column
    yield
    subproblems.push(yield* subproblemOf(columns, curves, inPlay.subarray(0, length)))
  }
  return subproblems
}

function solutionFrom(
  problem: Problem,
  { components, curves }: ColumnsAndCurves,
  { chosen }: Found,
): Solution {
  const encodes: PlannedEncode[] = []
  const assignments: Assignment[] = problem.demands.map((_, demand) => ({
    demand,
    encode: null,
    relay: null,
  }))
  const worth: Worth = { leftOutWeight: 0, belowFloor: 0, scoreUnits: 0, encodes: 0, kbps: 0 }
  let uploadKbps = 0
  let diskMegabytes = 0
  for (const { subproblem, column, point } of chosen) {
    const columns = components[subproblem]!
    worth.leftOutWeight += columns.leftOutWeight[column]!
    worth.belowFloor += columns.below[column]!
    if (columns.device[column]! < 0) continue
    const bitrate = curves.bitrate[point]!
    const bitrateKbps = problem.bitratesKbps[bitrate]!
    worth.encodes += 1
    worth.kbps += curves.wire[point]!
    uploadKbps += curves.wire[point]!
    const shape = columns.shape[column]!
    const routes = columns.routes[columns.group[column]!]!
    const served = columns.members.filter((_, bit) => isIn(columns.mask[column]!, bit))
    served.forEach((demand, index) => {
      const route = routes[index]!
      assignments[demand] = { demand, encode: encodes.length, relay: route < 0 ? null : route }
      const choice = problem.demands[demand]!.choices.find((each) => each.shape === shape)!
      worth.scoreUnits += choice.scores[bitrate - choice.first]!
      if (!choice.diskMegabytes) return
      diskMegabytes += choice.diskMegabytes[bitrate]!
      worth.kbps += bitrateKbps * problem.demands[demand]!.count
    })
    const [device, load] = [columns.device[column]!, columns.load[column]!]
    encodes.push({ shape, device, load, bitrateKbps })
  }
  return { assignments, encodes, worth, uploadKbps, diskMegabytes }
}

/** A plan with its bitrates as high as the upload allows to the best effect. */
function atBestBitrates({ components, curves }: ColumnsAndCurves, plan: Found, uploadKbps: number) {
  const own = plan.chosen.map(({ subproblem, column }) => components[subproblem]!.curve[column]!)
  const settled = solveKnapsack(curves, own, uploadKbps, -Infinity)
  if (!settled) return plan
  return {
    value: settled.value,
    chosen: plan.chosen.map((each, index) => ({ ...each, point: settled.points[index]! })),
  }
}

const columnsFor = (
  problem: Problem,
  components: readonly SearchedComponent[],
  choice: ColumnChoice = {},
): Generator<void, ColumnsAndCurves> =>
  columnsAndCurves(problem, components, weightsOf(problem), choice)

/** Whether the upload could be enough for nobody to be below the floor who is not left out. */
const mayFit = (problem: Problem, leftOutWeight: number): boolean =>
  leastUploadKbps(problem, { leftOutWeight, isAboveFloor: true }) <= problem.uploadKbps

const nothingFits: Optimum = {
  found: null,
  upper: -Infinity,
  upperAtPrices: -Infinity,
  status: proven(false),
}

/** No matter how much is left out or below the floor. */
const noLimit = 1e6

/** The plan that leaves out least. */
const minLeftOut = (
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

/** Whether there is a plan of a kind. One that was found is there; that there is none may not be proven. */
export interface Existence {
  exists: boolean
  isProven: boolean
}
const isThere: Existence = { exists: true, isProven: true }
const provenNone: Existence = { exists: false, isProven: true }

interface LeastLeftOut {
  /** null where no plan was found at all. */
  weight: number | null
  isProven: boolean
}

/** How much has to be left out. What is found at once is looked no further for. */
function* findingLeftOut(given: Problem, enough: number): Generator<unknown, LeastLeftOut> {
  const aggregation = aggregated(given)
  const { problem } = aggregation
  const uses = new EncodeUses(problem, noPreferences)
  const atOnce = yield* greedyPlan(uses)
  const leftOut = atOnce && solutionOfEncodes(uses, atOnce).worth.leftOutWeight
  if (leftOut !== null && leftOut <= enough) return { weight: leftOut, isProven: false }
  const known = (atOnce ?? []).map(({ serves }) => serves)
  const components = searchedComponents(problem, 'first', known)
  const all = yield* columnsFor(problem, components, { known })
  const start = atOnce && selectionOf(all, atOnce)
  const { found, status } = yield* minLeftOut(problem, all, start)
  return {
    weight: found && solutionFrom(problem, all, found).worth.leftOutWeight,
    isProven: status.name !== 'stopped' && aggregation.isExact && areComplete(all),
  }
}

/** Whether every group that could be has its columns. */
const areComplete = ({ components }: ColumnsAndCurves): boolean =>
  components.every(({ isComplete }) => isComplete)

/** Whether a plan exists at all that keeps what has to be kept. */
export function* findingPlan(problem: Problem): Generator<unknown, Existence> {
  if (!hasRoom(problem, noLimit)) return provenNone
  const { weight, isProven } = yield* findingLeftOut(problem, Infinity)
  return weight !== null ? isThere : { exists: false, isProven }
}

/** Whether a plan exists that leaves nobody out. */
export function* findingWholePlan(problem: Problem): Generator<unknown, Existence> {
  if (!hasRoom(problem, 0)) return provenNone
  const { weight, isProven } = yield* findingLeftOut(problem, 0)
  return weight === 0 ? isThere : { exists: false, isProven }
}

/** Whether the upload could be enough for all but so much. */
const hasRoom = (problem: Problem, leftOutWeight: number): boolean =>
  leastUploadKbps(problem, { leftOutWeight, isAboveFloor: false }) <= problem.uploadKbps

/** How many score units below the best a plan may stay: a margin for each owner, by its priority. */
function marginOf({ demands }: Problem, { marginUnits }: Preferences): number {
  const priorities = new Map(demands.map(({ owner, priority }) => [owner, priority]))
  return marginUnits * [...priorities.values()].reduce((sum, priority) => sum + priority, 0)
}

/**
 * Finds the best plan: the fewest left out, weighed by priority; the fewest below the floor; and
 * within a margin of the highest Σ priority × score what is best by the secondary aims (see
 * `lexicographic.ts`). Without a margin: the highest score, the fewest encodes, the fewest kb/s.
 * Yields every better plan as it is found, and returns the last with whether it is proven that none
 * is better by more than the margin.
 */
export function* solving(
  given: Problem,
  preferences: Preferences = noPreferences,
): Generator<Progress, Progress> {
  const margin = marginOf(given, preferences)
  const uses = new EncodeUses(given, preferences)
  const kept = margin > 0 ? keptPlan(uses) : null
  const run = nearlyBest(uses, kept, {
    forProof: Math.floor(margin * shareForProof),
    inAll: margin,
  })
  for (;;) {
    const step = run.next()
    if (!step.done) {
      yield step.value
      continue
    }
    const { solution, status } = step.value
    if (!solution || solution === kept || margin === 0) return step.value
    const { scoreUnits, belowFloor } = solution.worth
    const highest = scoreUnits + (status.name === 'optimal' ? status.gap : 0)
    const phase = lexicographicPhase(uses, solution, {
      highestScoreUnits: highest,
      marginUnits: margin,
      maxBelow: belowFloor,
    })
    for (;;) {
      const next = phase.next()
      if (next.done)
        return {
          solution: next.value,
          status: worthLess(status, scoreUnits - next.value.worth.scoreUnits),
        }
      yield step.value
    }
  }
}

const nothingYet: Progress = { solution: null, status: nothingKnown }

interface Margins {
  forProof: number
  inAll: number
}

/** What can't be proven in any case is worth so many steps of each look; one takes about a thousandth of a second. */
const stepsForLook = { first: 1000, second: 3000 } as const satisfies Record<Look, number>

/** Who falls short is settled first, which takes longer. */
const timesForShortfall = 10

/**
 * The plan of the highest score, or one that is proven to be no more than a margin below it; the one that
 * is kept already where it is that. Where many unlike demands have to be cut apart a second look at more
 * of them at once begins with what the first has found, for anything that is worth a margin more.
 */
function* nearlyBest(
  given: EncodeUses,
  kept: Solution | null,
  margins: Margins,
): Generator<Progress, Progress> {
  const first = neverWorse(oneLook(given, kept, margins, 'first'))
  const isOneLook = !isCutAtFirst(given.problem) || !aggregated(given.problem).isExact
  yield nothingYet
  if (isOneLook) return yield* first
  const found = yield* inSteps(first, stepsForLook.first)
  if (!found.solution) return found
  const second = oneLook(given, found.solution, margins, 'second')
  return yield* inSteps(neverWorse(second, found), stepsForLook.second)
}

/**
 * A plan that is worth less is not taken for one that was there before, unless it is proven to be as good
 * as it has to be: where a search is not proven, what it begins with may be better than what it ends with.
 */
function* neverWorse(
  run: Generator<Progress, Progress>,
  before: Progress = nothingYet,
): Generator<Progress, Progress> {
  let best = before.solution
  for (;;) {
    const { value, done } = run.next()
    const progress: Progress = best ? betterOf(value, best) : value
    best = progress.solution
    if (done) return progress
    yield progress
  }
}

function betterOf(progress: Progress, best: Solution): Progress {
  const { solution, status } = progress
  if (!solution) return { solution: best, status: nothingKnown }
  const [a, b] = [solution.worth, best.worth]
  const shorter = a.leftOutWeight - b.leftOutWeight || a.belowFloor - b.belowFloor
  if (shorter !== 0) return shorter > 0 ? { solution: best, status: nothingKnown } : progress
  const isWorse = status.name === 'stopped' && a.scoreUnits < b.scoreUnits
  return isWorse
    ? { solution: best, status: worthLess(status, a.scoreUnits - b.scoreUnits) }
    : progress
}

/** Until it ends, or after so many steps where there is a whole plan; where somebody falls short, after more of them. */
function* inSteps(run: Generator<Progress, Progress>, most: number): Generator<Progress, Progress> {
  for (let steps = 1; ; steps += 1) {
    const { value, done } = run.next()
    const enough = isWhole(value.solution) ? most : most * timesForShortfall
    if (done || (steps >= enough && value.solution)) return value
    yield value
  }
}

const isWhole = (solution: Solution | null): solution is Solution =>
  solution !== null && solution.worth.leftOutWeight === 0 && solution.worth.belowFloor === 0

function* oneLook(
  given: EncodeUses,
  kept: Solution | null,
  { forProof, inAll }: Margins,
  look: Look,
): Generator<Progress, Progress> {
  const aggregation = aggregated(given.problem)
  const { problem } = aggregation
  const weights = weightsOf(problem)
  const { scoreUnit } = weights
  // Those that are served in lots could not have all that was planned for each.
  const incumbent =
    isWhole(kept) && aggregation.isExact
      ? { solution: kept, value: valueOf(kept, weights), margin: inAll * scoreUnit }
      : null
  const progress = (
    columns: ColumnsAndCurves,
    { found, upper, upperAtPrices, status }: Optimum,
    isLast: boolean,
  ): Progress => {
    const areAllThere = areComplete(columns)
    const isComplete = aggregation.isExact && areAllThere
    if (isLast && found && !aggregation.isExact && aggregation.isBoundExact && areAllThere) {
      // The search has not tried every way to spread those that are alike, but the bound holds for all.
      const gap = Math.max(0, Math.ceil((upperAtPrices - found.value) / scoreUnit))
      return {
        solution: disaggregated(solutionFrom(problem, columns, found), aggregation),
        status: { name: gap <= inAll ? 'optimal' : 'stopped', gap },
      }
    }
    const isDecided = isLast && status.name !== 'stopped' && isComplete
    const value = found?.value ?? incumbent?.value
    const gap =
      value !== undefined && isComplete && Number.isFinite(upper)
        ? Math.ceil((upper - value) / scoreUnit)
        : null
    const solution = found
      ? disaggregated(solutionFrom(problem, columns, found), aggregation)
      : (incumbent?.solution ?? null)
    return {
      solution,
      status: isDecided
        ? proven(solution !== null, inAll === 0 ? 0 : (gap ?? 0))
        : { name: 'stopped', gap },
    }
  }
  function* best(
    columns: ColumnsAndCurves,
    limits: { leftOutWeight: number; belowFloor: number },
    start: Found | null,
  ): Generator<Progress, Optimum> {
    const isOneLookEnough = start === null
    const subproblems = yield* making(subproblemsFor(columns, limits))
    const run = branchAndBound(subproblems, resourcesOf(problem, limits), start, {
      ...{ isOneLookEnough, incumbent },
      margin: {
        atFirst: forProof * scoreUnit,
        atLast: Math.floor(inAll * shareAtLast) * scoreUnit,
      },
    })
    let last: Optimum | null = null
    for (;;) {
      const step = run.next()
      if (step.done) return step.value
      // Said again only where it is better known.
      if (step.value.found !== last?.found || step.value.upper !== last.upper) {
        last = step.value
        if (last.found || incumbent) said = progress(columns, last, false)
      }
      yield said
    }
  }

  let said = nothingYet
  /** While columns are made there is nothing new to say. */
  function* making<Last>(run: Generator<void, Last>): Generator<Progress, Last> {
    for (;;) {
      const step = run.next()
      if (step.done) return step.value
      yield said
    }
  }

  /** While a shortfall is settled the plan that falls short least so far is shown, at the best bitrates it can have. */
  function* settling(
    columns: ColumnsAndCurves,
    run: Generator<Found | null, Shortfall>,
  ): Generator<Progress, Shortfall> {
    let shown: Found | null = null
    for (;;) {
      const step = run.next()
      if (step.done) return step.value
      if (step.value && step.value !== shown) {
        shown = step.value
        const best = atBestBitrates(columns, shown, problem.uploadKbps)
        said = progress(
          columns,
          { found: best, upper: Infinity, upperAtPrices: Infinity, status: nothingKnown },
          false,
        )
      }
      yield said
    }
  }

  let atOnce: Encode[] | null = null
  if (incumbent) said = { solution: incumbent.solution, status: nothingKnown }
  else if (kept && aggregation.isExact) {
    atOnce = encodesOfSolution(problem, kept)
    said = { solution: kept, status: nothingKnown }
  } else {
    const uses = aggregation.isExact ? given : new EncodeUses(problem, noPreferences)
    atOnce = yield* making(greedyPlan(uses))
    const solution = atOnce && solutionOfEncodes(uses, raised(uses, atOnce))
    if (solution) said = { solution: disaggregated(solution, aggregation), status: nothingKnown }
  }
  yield said

  // Most shows fit whole, which one look tells; else the shortfall is settled first.
  const nothingShort = { leftOutWeight: 0, belowFloor: 0 }
  const encodes = incumbent ? encodesOfSolution(problem, incumbent.solution) : (atOnce ?? [])
  const known = encodes.map(({ serves }) => serves)
  const components = searchedComponents(problem, look, known)
  let whole = nothingFits
  if (mayFit(problem, 0)) {
    const columns = yield* making(columnsFor(problem, components, { isWhole: true, known }))
    whole = yield* best(columns, nothingShort, null)
    if (whole.found || incumbent) return progress(columns, whole, true)
  }

  const all = yield* making(columnsFor(problem, components, { known }))
  const least = yield* settling(all, minLeftOut(problem, all, atOnce && selectionOf(all, atOnce)))
  // Whoever might still be kept outweighs every score, so that no gap can be given.
  const settled = (optimum: Optimum, ...shortfalls: readonly Shortfall[]): Progress => {
    const areLeast = shortfalls.every(({ status }) => status.name === 'optimal')
    const last = progress(all, optimum, true)
    return areLeast && aggregation.isExact ? last : { ...last, status: nothingKnown }
  }
  if (!least.found)
    return {
      solution: null,
      status:
        least.status.name === 'infeasible' && aggregation.isExact && areComplete(all)
          ? least.status
          : nothingKnown,
    }
  const { leftOutWeight } = solutionFrom(problem, all, least.found).worth
  let aboveFloor = leftOutWeight === 0 ? whole : nothingFits
  if (leftOutWeight > 0 && mayFit(problem, leftOutWeight))
    aboveFloor = yield* best(all, { leftOutWeight, belowFloor: 0 }, null)
  if (aboveFloor.found) return settled(aboveFloor, least)

  const resources = resourcesOf(problem, { leftOutWeight, belowFloor: noLimit })
  const minBelow = yield* settling(
    all,
    leastShortfall(all, 'below', resources, {
      start: least.found,
      // Where no plan has everybody above the floor, one that has one below is the best.
      least: aboveFloor.status.name === 'infeasible' ? 1 : 0,
    }),
  )
  // Where it is not proven who has to be left out, this may have come upon a plan that leaves out less.
  const limits = solutionFrom(problem, all, minBelow.found!).worth
  const last = yield* best(all, limits, minBelow.found)
  return settled(last, least, minBelow)
}

/** Solves to the end; see `solving`. */
export const solve = (problem: Problem, preferences: Preferences = noPreferences): Progress =>
  runToEnd(solving(problem, preferences))
