import { bitrateStepKbps, spareUploadOf } from '../../fit'
import { audioBitrateLimitsKbps } from '../../show'
import { runToEnd } from '../runToEnd'
import { type FitResult, fittingAside } from '../fitShow'
import { showProblem } from '../problem/showProblem'
import { findingPlan } from '../search/solve'
import { withUpload } from './resourceUse'
import type { PlannedShow } from '../problem/renditionRequests'

/** The plan that nearly fits: what has to be kept is kept, and the line is missed by as little as can be. */
export interface NearestPlan {
  /** kb/s that it takes more than there are. */
  missKbps: number
  result: FitResult
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
 * For a show whose must-keeps do not fit: how much more upload they would need. null where
 * no upload would do, since it is the computer or a rule that stands in the way. Yields between
 * looks, so that it can be stopped.
 */
export function* findingNearestPlan(show: PlannedShow): Generator<unknown, NearestPlan | null> {
  // What other traffic takes beyond the whole line has to be made up for as well.
  const overdrawnKbps = Math.max(0, -spareUploadOf(show))
  const isEnough = (steps: number): Generator<unknown, boolean> =>
    findingPlan(showProblem(withUpload(show, overdrawnKbps + steps * bitrateStepKbps)).problem)
  let high = Math.ceil(maxTakenKbps(show) / bitrateStepKbps)
  if (!(yield* isEnough(high))) return null
  for (let low = 0; high - low > 1;) {
    const middle = Math.floor((low + high) / 2)
    if (yield* isEnough(middle)) high = middle
    else low = middle
  }
  const given = overdrawnKbps + high * bitrateStepKbps
  const planning = fittingAside(withUpload(show, given))
  for (;;) {
    const { value: result, done } = planning.next()
    if (done)
      return {
        missKbps: Math.max(0, Math.ceil(result.uploadKbps - spareUploadOf(show))),
        result,
      }
    yield null
  }
}

/** Finds the nearest plan to the end; see `findingNearestPlan`. */
export const nearestPlan = (show: PlannedShow): NearestPlan | null =>
  runToEnd(findingNearestPlan(show))
