import { isTaken, lineOf, type Show } from '../show'
import { type NightSummary, type ShareOfNights, wilson } from '../simulation'
import { headroomsTried } from './enoughHeadroom'
import { nightsOf, plannedFor } from './headroom'

/** How much headroom, and which sends give way by lowering their bitrate; the others drop frames. */
export interface JointChoice {
  headroomPercent: number
  /** Destinations whose sends lower. */
  lowering: string[]
}

/** What a joint choice comes to on the nights that were run. */
export interface JointResult extends JointChoice {
  clean: number
  nights: number
  share: ShareOfNights
  /** Σ over the sends of the score that viewers see, stalls and losses counted as nothing; mean of the nights. */
  seenPoints: number
}

/** With more sends than this, not every combination is tried. */
const maxSendsInAllWays = 4
/** So many nights tell what is worth running longer, and so many choices of a headroom are. */
export const jointTrial = { nightsFirst: 30, nights: 300, finalists: 6 } as const

/** Whether a send of the user's own either drops or lowers; one that holds is set so on purpose. */
const hasChoice = (destination: Show['destinations'][number]): boolean =>
  isTaken(destination) &&
  destination.connection !== 'hand-off' &&
  destination.relayId === null &&
  destination.sending.whenBehind !== 'hold'

/** What a show does now. */
export const jointChoiceOf = (show: Show): JointChoice => ({
  headroomPercent: lineOf(show).headroomPercent,
  lowering: show.destinations
    .filter((each) => hasChoice(each) && each.sending.whenBehind === 'lower')
    .map(({ id }) => id),
})

/** The show with the named destinations lowering, and the others that have the choice dropping. */
export const withWays = <Sent extends Pick<Show, 'destinations'>>(
  show: Sent,
  lowering: readonly string[],
): Sent => ({
  ...show,
  destinations: show.destinations.map((each) =>
    hasChoice(each)
      ? {
          ...each,
          sending: {
            ...each.sending,
            whenBehind: lowering.includes(each.id) ? ('lower' as const) : ('drop' as const),
          },
        }
      : each,
  ),
})

/**
 * Which sends may lower, in every combination while there are few; else none, each alone, all but each, all.
 * Who is set to hold stays so.
 */
export function waysToTry(show: Show): string[][] {
  const ids = show.destinations.filter(hasChoice).map(({ id }) => id)
  if (ids.length <= maxSendsInAllWays)
    return Array.from({ length: 2 ** ids.length }, (_, bits) =>
      ids.filter((_id, index) => (bits >> index) % 2 === 1),
    )
  const allBut = ids.map((id) => ids.filter((other) => other !== id))
  return [[], ...ids.map((id) => [id]), ...allBut, ids]
}

/** The headrooms to try: no less than there is where too few measurements tell how low the line goes. */
export const headroomsTogether = (show: Show, mayBeLess: boolean): number[] => {
  const now = lineOf(show).headroomPercent
  return [...new Set([...headroomsTried.filter((percent) => percent <= 40), now])]
    .filter((percent) => mayBeLess || percent >= now)
    .sort((a, b) => a - b)
}

function resultOf(choice: JointChoice, nights: readonly NightSummary[]): JointResult {
  const clean = nights.filter(({ isClean }) => isClean).length
  const sum = nights.reduce(
    (total, { score }) => total + score.reduce((own, each) => own + each, 0),
    0,
  )
  return {
    ...choice,
    ...{ clean, nights: nights.length, share: wilson(clean, nights.length) },
    seenPoints: nights.length === 0 ? 0 : sum / nights.length,
  }
}

/** The plan for a headroom: as it stands for today's, else anew, as setting it does; null where none is made. */
function planAt(show: Show, percent: number): Show | null {
  if (percent === lineOf(show).headroomPercent) return show
  return show.fit.automatic ? (plannedFor(show, percent)?.show ?? null) : null
}

/**
 * The joint choices of one headroom on the same few nights each; none where nothing fits, or where the plan
 * is set by hand and would not follow.
 */
export function jointlyAt(
  show: Show,
  percent: number,
  { nights, startsAtHour }: { nights: number; startsAtHour: number },
): JointResult[] {
  const planned = planAt(show, percent)
  if (!planned) return []
  return waysToTry(planned).map((lowering) =>
    resultOf(
      { headroomPercent: percent, lowering },
      nightsOf(withWays(planned, lowering), { from: 0, to: nights, startsAtHour }),
    ),
  )
}

/** One joint choice on as many nights as are wanted. */
export function jointResult(
  show: Show,
  choice: JointChoice,
  { nights, startsAtHour }: { nights: number; startsAtHour: number },
): JointResult {
  const planned = planAt(show, choice.headroomPercent)
  const summaries = planned
    ? nightsOf(withWays(planned, choice.lowering), { from: 0, to: nights, startsAtHour })
    : []
  return resultOf(choice, summaries)
}

/**
 * Which choices are worth more nights: the best seen of those that are about as clean as the cleanest
 * that can be, and the cleanest.
 */
export function finalistsOf(results: readonly JointResult[], count: number): JointResult[] {
  const best = [...results].sort((a, b) => b.seenPoints - a.seenPoints)
  const cleanest = [...results].sort(
    (a, b) => b.share.share - a.share.share || b.seenPoints - a.seenPoints,
  )
  const mostClean = cleanest[0]?.share.share ?? 0
  const few = best.filter(({ share }) => share.high >= mostClean)
  return [...new Set([...few.slice(0, count - 2), ...cleanest])].slice(0, count)
}

/**
 * What is offered beside what there is now, the best first: as clean as now, or clean on the wanted share of
 * nights, and seen better; or cleaner where now is not clean enough. All of them on the same nights.
 */
export function betterTogether(
  now: JointResult,
  results: readonly JointResult[],
  wantedPercent: number,
): JointResult[] {
  const wanted = wantedPercent / 100
  const isEnough = ({ share }: JointResult): boolean => share.share >= wanted
  const tenth = 0.1
  const better = results.filter((each) => {
    if (each.nights < now.nights) return false
    if (isEnough(now)) return isEnough(each) && each.seenPoints > now.seenPoints + tenth
    return (
      each.clean > now.clean ||
      (each.clean === now.clean && each.seenPoints > now.seenPoints + tenth)
    )
  })
  return better.sort(
    (a, b) =>
      Number(isEnough(b)) - Number(isEnough(a)) ||
      (isEnough(a) ? b.seenPoints - a.seenPoints : b.clean - a.clean) ||
      a.lowering.length - b.lowering.length,
  )
}
