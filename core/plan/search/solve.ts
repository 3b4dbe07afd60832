import { noPreferences, type Preferences } from '../problem/preferences'
import { compareShortfalls, type Problem, type Solution } from '../problem/problem'
import { runToEnd } from '../runToEnd'
import { isCutAtFirst } from './components'
import { heldPlan } from './lastPlan'
import { lexicographicPhase } from './lexicographic'
import {
  isWhole,
  type Margins,
  nothingYet,
  type LookProgress,
  oneLook,
  type Progress,
  shareForProof,
} from './look'
import { EncodeUses } from './planState'
import { reoptimised } from './reoptimising'
import { nothingKnown, worthLess } from './status'
import { aggregated } from './symmetry'

/** How many score units below the best a plan may stay: a margin for each owner, by its priority. */
function marginOf({ demands }: Problem, marginUnits: number): number {
  const priorities = new Map(demands.map(({ owner, priority }) => [owner, priority]))
  return marginUnits * [...priorities.values()].reduce((sum, priority) => sum + priority, 0)
}

function marginsFor(problem: Problem, marginUnits: number): Margins {
  const inAll = marginOf(problem, marginUnits)
  return { forProof: Math.floor(inAll * shareForProof), inAll }
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
  const { marginUnits } = preferences
  const margin = marginOf(given, marginUnits)
  const uses = new EncodeUses(given, preferences)
  const held = margin > 0 ? heldPlan(uses) : null
  const run = nearlyBest(uses, held, marginsFor(given, marginUnits), marginUnits)
  for (;;) {
    const step = run.next()
    if (!step.done) {
      yield step.value
      continue
    }
    const { solution, status } = step.value
    if (!solution || solution === held || margin === 0) return step.value
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

/**
 * What can't be proven in any case is worth so many steps of each search; one takes up to a thousandth of a
 * second. Who falls short is settled first, which takes longer.
 */
const maxSteps = { first: 1000, second: 3000, inParts: 4000 } as const
const timesForShortfall = { first: 4, second: 4, inParts: 5 } as const
type Stage = keyof typeof maxSteps

const stepsFor = (stage: Stage, solution: Solution | null): number =>
  maxSteps[stage] * (isWhole(solution) ? 1 : timesForShortfall[stage])

/** A part is planned anew for anything that is worth so much of its margin. */
const shareForPart = 1 / 4

/**
 * The plan of the highest score, or one that is proven to be no more than a margin below it; the one that
 * is held already where it is that. Where there are too many ways to look at all of them it is made better
 * in others: where many unlike demands have to be cut apart by a second look at more of them at once, and
 * then part by part.
 */
function* nearlyBest(
  given: EncodeUses,
  held: Solution | null,
  margins: Margins,
  marginUnits: number,
): Generator<Progress, Progress> {
  yield nothingYet
  // Where those that are alike are served in lots, a look knows nothing of the plan that is held.
  const before: Progress = { solution: held, status: nothingKnown }
  let found = yield* looking(oneLook(given, held, margins, 'first'), before, 'first')
  const isCut =
    !found.isProvable && isCutAtFirst(given.problem) && aggregated(given.problem).isExact
  if (isCut && found.solution) {
    const second = oneLook(given, found.solution, margins, 'second')
    found = yield* looking(second, found, 'second')
  }
  if (found.isProvable || !found.solution) return found
  const marginsOf = (part: Problem): Margins => marginsFor(part, marginUnits * shareForPart)
  return yield* reoptimised(given, found.solution, marginsOf, stepsFor('inParts', found.solution))
}

/**
 * Looks until it ends; or where nothing can be proven after so many steps with a whole plan, and after more
 * of them where somebody falls short. A plan that is worth less is not taken for one that was there before,
 * unless it is proven to be as good as it has to be: where a search is not proven, what it begins with may
 * be better than what it ends with.
 */
function* looking(
  look: Generator<LookProgress, LookProgress>,
  before: Progress,
  stage: Stage,
): Generator<Progress, LookProgress> {
  let best = before.solution
  for (let steps = 1; ; steps += 1) {
    const { value, done } = look.next()
    const progress = best ? betterOf(value, best) : value
    best = progress.solution
    const isEnough = best !== null && !value.isProvable && steps >= stepsFor(stage, best)
    if (done || isEnough) return progress
    yield progress
  }
}

function betterOf(progress: LookProgress, best: Solution): LookProgress {
  const { solution, status } = progress
  const asBefore = { ...progress, solution: best, status: nothingKnown }
  if (!solution) return asBefore
  const [a, b] = [solution.worth, best.worth]
  const lessShort = compareShortfalls(a, b)
  if (lessShort !== 0) return lessShort > 0 ? progress : asBefore
  const isWorse = status.name === 'stopped' && a.scoreUnits < b.scoreUnits
  return isWorse
    ? { ...progress, solution: best, status: worthLess(status, a.scoreUnits - b.scoreUnits) }
    : progress
}

/** Solves to the end; see `solving`. */
export const solve = (problem: Problem, preferences: Preferences = noPreferences): Progress =>
  runToEnd(solving(problem, preferences))
