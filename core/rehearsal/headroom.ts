import { fitShow, withPlan } from '../plan'
import { lineOf, type Show } from '../show'
import { inSteps, nightPlanOf, type NightSummary, runNight, summaryOf, wilson } from '../simulation'
import { type HeadroomPoint, isSettled } from './enoughHeadroom'

export const withHeadroom = <Planned extends Show>(show: Planned, percent: number): Planned => ({
  ...show,
  lines: show.lines.map((line) =>
    line === lineOf(show) ? { ...line, headroomPercent: percent } : line,
  ),
})

/** A show as it would be planned for a headroom; null where nothing fits. */
export function plannedFor(
  show: Show,
  percent: number,
): { show: Show; points: number; leftOut: number } | null {
  const asked = withHeadroom(show, percent)
  const { parts, worth } = fitShow(asked)
  if (!parts || !worth) return null
  return {
    show: withPlan(asked, parts),
    points: worth.scoreUnits / 100,
    leftOut: worth.leftOutWeight,
  }
}

/** Nights are run so many at a time, and a point is given up once it is settled. */
const chunk = 50

/**
 * The clean nights at one headroom: the same nights for every headroom, no more of them than are
 * needed to tell whether the wanted share is reached. Yields as it goes, so that it can be stopped.
 */
export function* nightsAt(
  show: Show,
  percent: number,
  { maxNights, startsAtHour }: { maxNights: number; startsAtHour: number },
): Generator<void, HeadroomPoint> {
  const planned = plannedFor(show, percent)
  yield
  if (!planned)
    return { percent, clean: 0, nights: 0, share: wilson(0, 0), points: null, leftOut: Infinity }
  const plan = nightPlanOf(planned.show, startsAtHour)
  const wanted = show.rehearsal.wantedPercent / 100
  let clean = 0
  let nights = 0
  while (nights < maxNights && !(nights >= 2 * chunk && isSettled(wilson(clean, nights), wanted))) {
    for (const end = Math.min(maxNights, nights + chunk); nights < end; nights += 1) {
      const outcome = runNight(plan, show.rehearsal.seed, nights, inSteps)
      if (summaryOf(outcome, plan.clean).isClean) clean += 1
      yield
    }
  }
  const { points, leftOut } = planned
  return { percent, clean, nights, share: wilson(clean, nights), points, leftOut }
}

/** The clean nights of a show as it stands among so many. */
export function nightsOf(
  show: Show,
  { from, to, startsAtHour }: { from: number; to: number; startsAtHour: number },
): NightSummary[] {
  const plan = nightPlanOf(show, startsAtHour)
  const summaries: NightSummary[] = []
  for (let night = from; night < to; night += 1)
    summaries.push(summaryOf(runNight(plan, show.rehearsal.seed, night, inSteps), plan.clean))
  return summaries
}
