import { bitrateStepKbps, spareUploadOf } from '../../fit'
import { audioBitrateLimitsKbps } from '../../show'
import { runToEnd } from '../runToEnd'
import { type FitResult, fittingAside } from '../fitShow'
import { showProblem } from '../problem/showProblem'
import { mbpsInWords } from '../../words'
import { type Existence, findingPlan } from '../search/existence'
import { withUpload } from './resourceUse'
import type { PlannedShow } from '../problem/renditionRequests'

/** The plan that nearly fits: what has to be kept is kept, and the line is missed by as little as can be. */
export interface NearestPlan {
  /** kb/s that it takes more than there are; null where no upload would do, since the computer or a rule stands in the way. */
  missKbps: number | null
  /** Whether it is proven that less, or where none would do any, is not enough. */
  isProven: boolean
  result: FitResult | null
}

/** No plan takes more than every send at the highest bitrate there can be, twice over for its framing. */
function maxTakenKbps({ destinations }: PlannedShow): number {
  const sends = destinations.filter(({ on }) => on)
  return sends.reduce(
    (sum, { rules, renditions, backupAddress }) =>
      sum +
      2 *
        (rules.mostVideoBitrateKbps + audioBitrateLimitsKbps.max) *
        renditions.length *
        (backupAddress === null ? 1 : 2),
    0,
  )
}

/**
 * For a show whose must-keeps do not fit: how much more upload they would need. Yields between looks, so
 * that it can be stopped.
 */
export function* findingNearestPlan(show: PlannedShow): Generator<unknown, NearestPlan> {
  // What other traffic takes beyond the whole line has to be made up for as well.
  const overdrawnKbps = Math.max(0, -spareUploadOf(show))
  const withMore = (steps: number): Generator<unknown, Existence> =>
    findingPlan(showProblem(withUpload(show, overdrawnKbps + steps * bitrateStepKbps)).problem)
  let high = Math.ceil(maxTakenKbps(show) / bitrateStepKbps)
  const most = yield* withMore(high)
  if (!most.exists) return { missKbps: null, isProven: most.isProven, result: null }
  let [low, isProven] = [0, true]
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2)
    const found = yield* withMore(middle)
    if (found.exists) high = middle
    else [low, isProven] = [middle, found.isProven]
  }
  if (low === 0) isProven = (yield* withMore(0)).isProven
  const given = overdrawnKbps + high * bitrateStepKbps
  const planning = fittingAside(withUpload(show, given))
  for (;;) {
    const { value: result, done } = planning.next()
    if (done)
      return {
        missKbps: Math.max(0, Math.ceil(result.uploadKbps - spareUploadOf(show))),
        isProven,
        result,
      }
    yield null
  }
}

/** Finds the nearest plan to the end; see `findingNearestPlan`. */
export const nearestPlan = (show: PlannedShow): NearestPlan => runToEnd(findingNearestPlan(show))

/** By how much the nearest plan misses, as a sentence. */
export function nearestInWords({ missKbps, isProven }: NearestPlan): string {
  if (missKbps !== null)
    return isProven
      ? `The nearest plan misses by ${mbpsInWords(missKbps)} of upload.`
      : `The nearest plan that was found misses by ${mbpsInWords(missKbps)} of upload; less may be enough.`
  return isProven
    ? 'No upload would make room for what has to be kept: the computer or a rule stands in the way.'
    : 'No plan was found that keeps what has to be kept, whatever the upload, which does not prove that there is none.'
}
