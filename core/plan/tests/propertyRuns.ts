import fc from 'fast-check'
import { runsOf } from '../../../tests/tier'
import { type FitResult, fittingShow } from '../fitShow'
import type { Problem } from '../problem/problem'
import type { PlannedShow } from '../problem/renditionRequests'
import type { Progress } from '../search/look'
import { solving } from '../search/solve'

/** Holds a property against so many things that chance makes, in a whole run. */
export function check<T>(
  arbitrary: fc.Arbitrary<T>,
  wholeRuns: number,
  holds: (value: T) => void,
): void {
  fc.assert(fc.property(arbitrary, holds), { numRuns: runsOf(wholeRuns) })
}

/** A few of what chance makes take a search minutes; a property says nothing of those. */
const maxSteps = 4000

function endOrSkip<Last>(run: Generator<Last, Last>): Last {
  for (let steps = 0; steps < maxSteps; steps += 1) {
    const { value, done } = run.next()
    if (done) return value
  }
  return fc.pre(false) as never
}

/** Plans a show to the end; one that takes longer is no case of the property. */
export const fitOrSkip = (show: PlannedShow): FitResult => endOrSkip(fittingShow(show))

/** The same for a problem. */
export const solveOrSkip = (problem: Problem): Progress => endOrSkip(solving(problem))
