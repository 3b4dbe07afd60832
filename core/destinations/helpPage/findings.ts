import { addressFindings, procedureFindings } from './connecting'
import { bFrameFindings, codecFindings, keyframeFindings } from './encoding'
import type { Finding } from './finding'
import { frameRateFindings, sizeFindings } from './pictures'
import { rateFindings } from './rates'
import { audioFindings } from './sound'
import type { Statement } from './statements'

/** Everything that one statement says of a destination's rules, in its own order by topic. */
export function findingsOf(statement: Statement): Finding[] {
  return [
    ...addressFindings(statement),
    ...codecFindings(statement),
    ...sizeFindings(statement),
    ...frameRateFindings(statement),
    ...rateFindings(statement),
    ...keyframeFindings(statement),
    ...bFrameFindings(statement),
    ...audioFindings(statement),
    ...procedureFindings(statement),
  ]
}
