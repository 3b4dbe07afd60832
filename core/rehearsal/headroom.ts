import { budgetOf } from '../fit'
import { fitShow, withPlan } from '../plan'
import { lineOf, type Rendition, type Show } from '../show'
import {
  inSteps,
  nightPlanOf,
  type NightSummary,
  runNight,
  type ShareOfNights,
  summaryOf,
  wilson,
} from '../simulation'
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

/** Bitrates are raised and lowered within this factor; halving finds one to a thousandth. */
const scales = { least: 0.02, most: 50, halvings: 24 } as const
/** Under this an encoder makes no picture. */
const leastKbps = 50

/** A show with the bitrates that nobody holds multiplied, each within its rules. */
const withBitratesTimes = (show: Show, factor: number): Show => ({
  ...show,
  destinations: show.destinations.map((destination) => {
    const { rules, connection } = destination
    const scaled = (rendition: Rendition): Rendition =>
      connection === 'hand-off' || rendition.pins.includes('video bitrate')
        ? rendition
        : {
            ...rendition,
            videoBitrateKbps: Math.round(
              Math.min(
                rules.mostVideoBitrateKbps,
                Math.max(
                  rules.leastVideoBitrateKbps ?? leastKbps,
                  rendition.videoBitrateKbps * factor,
                ),
              ),
            ),
          }
    return { ...destination, renditions: destination.renditions.map(scaled) }
  }),
})

/**
 * The plan that is there with its bitrates raised or lowered together to what another headroom leaves. Whom
 * it serves, sizes and encodes stay, so that of two headrooms only how much is spent differs: planned anew
 * for each, a little more headroom may mean a single send that gets all the rest and cannot give way. null
 * where nothing fits.
 */
export function familyAt(show: Show, percent: number): Show | null {
  const fits = (each: Show): boolean => budgetOf(each).spareKbps >= 0
  const base = fits(show) ? show : plannedFor(show, lineOf(show).headroomPercent)?.show
  if (!base) return null
  const asked = withHeadroom(base, percent)
  let [low, high] = [Math.log(scales.least), Math.log(scales.most)]
  if (!fits(withBitratesTimes(asked, scales.least))) return null
  for (let halving = 0; halving < scales.halvings; halving += 1) {
    const middle = (low + high) / 2
    if (fits(withBitratesTimes(asked, Math.exp(middle)))) low = middle
    else high = middle
  }
  return withBitratesTimes(asked, Math.exp(low))
}

/** Nights are run so many at a time, and a point is given up once it is settled. */
const chunk = 50

interface NightsWanted {
  maxNights: number
  startsAtHour: number
}

/** The clean ones of as many nights as are needed to tell whether a share is reached. */
function* cleanNights(
  show: Show,
  wanted: number,
  { maxNights, startsAtHour }: NightsWanted,
): Generator<void, { clean: number; nights: number; share: ShareOfNights }> {
  const plan = nightPlanOf(show, startsAtHour)
  let [clean, nights] = [0, 0]
  while (nights < maxNights && !(nights >= 2 * chunk && isSettled(wilson(clean, nights), wanted))) {
    for (const end = Math.min(maxNights, nights + chunk); nights < end; nights += 1) {
      const outcome = runNight(plan, show.rehearsal.seed, nights, inSteps)
      if (summaryOf(outcome, plan.clean).isClean) clean += 1
      yield
    }
  }
  return { clean, nights, share: wilson(clean, nights) }
}

/**
 * The clean nights at one headroom: the same nights for every headroom, no more of them than are
 * needed to tell whether the wanted share is reached; where it is, those of the show planned anew too.
 * Yields as it goes, so that it can be stopped.
 */
export function* nightsAt(
  show: Show,
  percent: number,
  wanted: NightsWanted,
): Generator<void, HeadroomPoint> {
  const planned = plannedFor(show, percent)
  const family = planned && familyAt(show, percent)
  yield
  if (!planned || !family) {
    const none = wilson(0, 0)
    return {
      ...{ percent, clean: 0, nights: 0, share: none, anew: null },
      points: null,
      leftOut: Infinity,
    }
  }
  const wantedShare = show.rehearsal.wantedPercent / 100
  const found = yield* cleanNights(family, wantedShare, wanted)
  const isEnough = found.share.low > wantedShare
  const anew = isEnough ? (yield* cleanNights(planned.show, wantedShare, wanted)).share : null
  const { points, leftOut } = planned
  return { percent, ...found, anew, points, leftOut }
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
