import { fitShow, type PlannedShow, withPlan } from '../plan'
import type { Show } from '../show'
import { missingForNight, type NightSummary } from '../simulation'
import { nightsOf } from './headroom'
import type { Remedy, RemedyResult } from './remedies'

/** Planned anew where the show plans by itself, since a remedy may free what the plan then spends. */
const replanned = (show: Show): Show => {
  if (!show.fit.automatic) return show
  const { parts } = fitShow(show as PlannedShow)
  return parts ? withPlan(show, parts) : show
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
  const changed = remedy.change(show)
  const after = remedy.plansAnew ? replanned(changed) : changed
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
