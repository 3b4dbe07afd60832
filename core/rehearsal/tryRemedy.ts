import { fitShow, planningKey, withPlan } from '../plan'
import type { Show } from '../show'
import { missingForNight, type NightSummary } from '../simulation'
import { nightsOf } from './headroom'
import type { Remedy, RemedyResult } from './remedies'

/**
 * A show as it is once a remedy was taken: where it plans by itself, what the remedy frees is planned
 * for at once, so that what is tried is what taking it brings.
 */
function onceTaken(show: Show, { change }: Remedy): Show {
  const changed = change(show)
  if (!show.fit.automatic || planningKey(changed) === planningKey(show)) return changed
  const { parts } = fitShow(changed)
  return parts ? withPlan(changed, parts) : changed
}

const scoreOf = (nights: readonly NightSummary[]): number => {
  const sum = nights.reduce(
    (total, { score }) => total + score.reduce((own, each) => own + each, 0),
    0,
  )
  return nights.length === 0 ? 0 : sum / nights.length
}

/** Tries one remedy on the same nights as `before`, night by night. */
export function tryRemedy(
  show: Show,
  remedy: Remedy,
  before: readonly NightSummary[],
  startsAtHour: number,
): RemedyResult {
  const { id, label, note } = remedy
  const after = onceTaken(show, remedy)
  const result = { id, label, note, nights: before.length, clean: 0, won: 0, points: 0 }
  if (missingForNight(after).length > 0) return result
  const nights = nightsOf(after, { from: 0, to: before.length, startsAtHour })
  const clean = nights.filter(({ isClean }) => isClean).length
  return {
    ...result,
    clean,
    won: clean - before.filter(({ isClean }) => isClean).length,
    points: scoreOf(nights) - scoreOf(before),
  }
}
