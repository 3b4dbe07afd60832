import type { Problem, Solution } from '../problem/problem'
import { noPreferences } from '../problem/preferences'
import { branchAndBound, type Optimum } from './branchAndBound'
import type { ColumnsAndCurves } from './columns'
import { type Look, searchedComponents } from './components'
import { firstPlan, knownFrom } from './firstPlan'
import { raised } from './greedy'
import { noKnownPlans } from './groups'
import { leastUploadKbps } from './leastUpload'
import { type Encode, encodesOfSolution, EncodeUses, solutionOfEncodes } from './planState'
import { inPriorityOrder } from './priorityOrder'
import { resourcesOf } from './resources'
import {
  areComplete,
  atBestBitrates,
  columnsFor,
  selectionOf,
  solutionFrom,
  valueOf,
  weightsOf,
} from './selection'
import { leastShortfall, minLeftOut, noLimit, type Shortfall } from './shortfall'
import { nothingKnown, proven, type SearchStatus } from './status'
import type { Found } from './structures'
import { type Subproblem, subproblemOf } from './subproblems'
import { aggregated, disaggregated } from './symmetry'

export interface Progress {
  /** The best plan so far; null before there is one. */
  solution: Solution | null
  /** Its gap is in score units. */
  status: SearchStatus
}

/** What one look has found so far. */
export interface LookProgress extends Progress {
  /** false once it is known that not everything is looked at, so that what is best will not be proven. */
  isProvable: boolean
}

export const nothingYet: LookProgress = {
  solution: null,
  status: nothingKnown,
  isProvable: true,
}

export interface Margins {
  forProof: number
  inAll: number
}

/** The share of the margin in which the best need not be told from the next, unless that takes long; the rest is left to choose in. */
export const shareForProof = 1 / 4
const shareAtLast = 3 / 4

/**
 * Rounds of a large neighbourhood search for a plan that falls short; one takes about a thousandth of a
 * second, and most of what they bring comes in the first hundreds.
 */
const rounds = 1000

export const isWhole = (solution: Solution | null): solution is Solution =>
  solution !== null && solution.worth.leftOutWeight === 0 && solution.worth.belowFloor === 0

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

/** Whether the upload could be enough for nobody to be below the floor who is not left out. */
const mayFit = (problem: Problem, leftOutWeight: number): boolean =>
  leastUploadKbps(problem, { leftOutWeight, isAboveFloor: true }) <= problem.uploadKbps

const nothingFits: Optimum = {
  found: null,
  upper: -Infinity,
  upperAtPrices: -Infinity,
  status: proven(false),
}

export function* oneLook(
  given: EncodeUses,
  held: Solution | null,
  { forProof, inAll }: Margins,
  look: Look,
): Generator<LookProgress, LookProgress> {
  const aggregation = aggregated(given.problem)
  const { problem } = aggregation
  const weights = weightsOf(problem)
  const { scoreUnit } = weights
  // Those that are served in lots could not have all that was planned for each.
  const incumbent =
    isWhole(held) && aggregation.isExact
      ? { solution: held, value: valueOf(held, weights), margin: inAll * scoreUnit }
      : null
  const isProvableWith = (columns: ColumnsAndCurves): boolean =>
    areComplete(columns) && (aggregation.isExact || aggregation.isBoundExact)
  const progress = (
    columns: ColumnsAndCurves,
    { found, upper, upperAtPrices, status }: Optimum,
    isLast: boolean,
  ): LookProgress => {
    const isProvable = isProvableWith(columns)
    const isComplete = aggregation.isExact && isProvable
    if (isLast && found && !aggregation.isExact && isProvable) {
      // The search has not tried every way to spread those that are alike, but the bound holds for all.
      const gap = Math.max(0, Math.ceil((upperAtPrices - found.value) / scoreUnit))
      return {
        solution: disaggregated(solutionFrom(problem, columns, found), aggregation),
        status: { name: gap <= inAll ? 'optimal' : 'stopped', gap },
        isProvable,
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
      isProvable,
    }
  }
  function* best(
    columns: ColumnsAndCurves,
    limits: { leftOutWeight: number; belowFloor: number },
    start: Found | null,
  ): Generator<LookProgress, Optimum> {
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
  function* making<Last>(run: Generator<void, Last>): Generator<LookProgress, Last> {
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
  ): Generator<LookProgress, Shortfall> {
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

  const uses = aggregation.isExact ? given : new EncodeUses(problem, noPreferences)
  let atOnce: Encode[] | null = null
  let known = noKnownPlans
  if (held && aggregation.isExact) {
    atOnce = inPriorityOrder(problem, encodesOfSolution(problem, held))
    known = knownFrom(atOnce)
    said = { ...nothingYet, solution: held }
  }
  for (const steps = firstPlan(uses, atOnce, { rounds }); !incumbent;) {
    const step = steps.next()
    const encodes = step.done ? step.value.encodes : step.value
    if (encodes && encodes !== atOnce) {
      const solution = solutionOfEncodes(uses, raised(uses, encodes))
      said = { ...nothingYet, solution: disaggregated(solution, aggregation) }
    }
    atOnce = encodes
    if (step.done) {
      known = step.value.known
      break
    }
    yield said
  }
  yield said

  // Most shows fit whole, which one look tells; else the shortfall is settled first.
  const nothingShort = { leftOutWeight: 0, belowFloor: 0 }
  const components = searchedComponents(problem, look, known.served)
  let whole = nothingFits
  if (mayFit(problem, 0)) {
    const columns = yield* making(columnsFor(problem, components, { isWhole: true, known }))
    said = { ...said, isProvable: isProvableWith(columns) }
    whole = yield* best(columns, nothingShort, null)
    if (whole.found || incumbent) return progress(columns, whole, true)
  }

  const all = yield* making(columnsFor(problem, components, { known }))
  said = { ...said, isProvable: isProvableWith(all) }
  const least = yield* settling(
    all,
    minLeftOut(problem, all, atOnce && selectionOf(uses, all, atOnce)),
  )
  // Whoever might still be kept outweighs every score, so that no gap can be given.
  const settled = (optimum: Optimum, ...shortfalls: readonly Shortfall[]): LookProgress => {
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
      isProvable: isProvableWith(all),
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
