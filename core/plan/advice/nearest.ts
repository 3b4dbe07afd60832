import { bitrateStepKbps } from '../../fit'
import { usableUpload } from '../../network'
import { lineOf } from '../../show'
import { ended } from '../ended'
import { type FitResult, fittingAside } from '../fitShow'
import { showProblem } from '../problem/showProblem'
import { hasPlan } from '../search/solve'
import { withUpload } from './room'
import type { PlannedShow } from '../problem/wishes'

/** The plan that nearly fits: what has to be kept is kept, and the line is missed by as little as can be. */
export interface NearestPlan {
  /** kb/s that it takes more than there are. */
  missKbps: number
  result: FitResult
}

const mostMissKbps = 400_000

/**
 * For a show whose must-keeps do not fit: how much more upload they would need. null where
 * no upload would do, since it is the computer or a rule that stands in the way.
 */
export function nearestPlan(show: PlannedShow): NearestPlan | null {
  const isEnough = (kbps: number): boolean => hasPlan(showProblem(withUpload(show, kbps)).problem)
  let enough = 1000
  while (!isEnough(enough)) {
    enough *= 4
    if (enough > mostMissKbps) return null
  }
  let low = enough === 1000 ? 0 : enough / 4 / bitrateStepKbps
  let high = enough / bitrateStepKbps
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2)
    if (isEnough(middle * bitrateStepKbps)) high = middle
    else low = middle
  }
  const result = ended(fittingAside(withUpload(show, high * bitrateStepKbps)))
  const { usableKbps } = usableUpload(lineOf(show))
  return { missKbps: Math.max(0, result.uploadKbps - usableKbps), result }
}
