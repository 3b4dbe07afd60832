import { isSameJson } from '../show'
import { runToEnd } from './runToEnd'
import { type Solution, unitsOfDemand, type Worth } from './problem/problem'
import { type ShowProblem, showProblem } from './problem/showProblem'
import type { PlannedShow } from './problem/renditionRequests'
import { planFrom, planOf, type PlanParts } from './showPlan'
import type { Progress } from './search/look'
import { solving } from './search/solve'
import { nothingKnown, type SearchStatus } from './search/status'

/** What the planner has found for a show. */
export interface FitResult {
  /** null where nothing fits, or nothing was found yet. */
  parts: PlanParts | null
  worth: Worth | null
  /** What each destination and recording that is kept is worth, by its identifier; Σ is that of `worth`. */
  unitsById: Record<string, number>
  uploadKbps: number
  /** Its gap is in score units. */
  status: SearchStatus
}

function unitsById({ problem, sources }: ShowProblem, solution: Solution): Record<string, number> {
  const units: Record<string, number> = {}
  sources.forEach(({ id }, demand) => {
    const own = unitsOfDemand(problem, solution, demand)
    if (own !== null) units[id] = (units[id] ?? 0) + own
  })
  return units
}

const nothingFound: FitResult = {
  parts: null,
  worth: null,
  unitsById: {},
  uploadKbps: 0,
  status: nothingKnown,
}

/** Plans a show; yields every better plan, and the same again between steps so that it can be stopped. */
export function* fittingShow(show: PlannedShow): Generator<FitResult, FitResult> {
  const made = showProblem(show)
  // Of many destinations that is a step by itself.
  yield nothingFound
  const run = solving(made.problem, made.preferences)
  const result = ({ solution, status }: Progress): FitResult => ({
    parts: solution && planFrom(show, made, solution),
    worth: solution?.worth ?? null,
    unitsById: solution ? unitsById(made, solution) : {},
    uploadKbps: solution?.uploadKbps ?? 0,
    status,
  })
  let last: Progress | null = null
  let said: FitResult | null = null
  for (;;) {
    const step = run.next()
    if (step.done) return result(step.value)
    if (step.value !== last) {
      last = step.value
      said = result(last)
    }
    yield said as FitResult
  }
}

/** Plans a show to the end. */
export const fitShow = (show: PlannedShow): FitResult => runToEnd(fittingShow(show))

/** How many steps of a search a side question is worth; a step takes about a thousandth of a second. */
const stepsForSideQuestion = 3000

/**
 * Plans a show for a side question: where the best takes long to be proven, the best so far has to do.
 * Yields between steps, so that it can be stopped.
 */
export function* fittingAside(show: PlannedShow): Generator<null, FitResult> {
  const run = fittingShow(show)
  for (let steps = 1; ; steps += 1) {
    const { value, done } = run.next()
    if (done || (steps >= stepsForSideQuestion && value.parts)) return value
    yield null
  }
}

/** The same for a problem that was made already, and as a solution of it. */
export function* fittingMade({ problem, preferences }: ShowProblem): Generator<null, Progress> {
  const run = solving(problem, preferences)
  for (let steps = 1; ; steps += 1) {
    const { value, done } = run.next()
    if (done || (steps >= stepsForSideQuestion && value.solution)) return value
    yield null
  }
}

/** Whether a show already is as a plan says. */
export const isCarriedOut = (show: PlannedShow, parts: PlanParts): boolean =>
  isSameJson(planOf(show), parts)
