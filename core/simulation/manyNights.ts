import type { CleanLimits } from '../show'
import { type LossCause, lossCauses, lostOf, type NightOutcome, sufferersOf } from './outcome'
import { type ShareOfNights, wilson } from './wilson'

/** What is kept of one night among many. */
export interface NightSummary {
  night: number
  isClean: boolean
  /** Why it is not clean, and who suffered first; null where it is. */
  cause: LossCause | null
  who: string | null
  /** How far it is from clean: the largest figure against its limit, 1 = just clean. */
  badness: number
  /** By send, in the plan's order. */
  lostShare: number[]
  awaySeconds: number[]
  behindSeconds: number[]
  score: number[]
}

const against = (value: number, limit: number): number =>
  limit > 0 ? value / limit : value > 0 ? Infinity : 0

export function summaryOf(outcome: NightOutcome, clean: CleanLimits): NightSummary {
  const { sends, recordings } = outcome
  const sufferers = sufferersOf(outcome, clean)
  const suffers = [...sufferers.sends, ...sufferers.recordings]
  // The cause of most of what the sufferers lost; who was only behind was held up by the line.
  const lost = { line: 0, computer: 0, destination: 0 }
  for (const { lost: own } of suffers) for (const cause of lossCauses) lost[cause] += own[cause]
  const cause = lossCauses.reduce((most, each) => (lost[each] > lost[most] ? each : most))
  const badness = Math.max(
    0,
    ...sends.map((send) =>
      Math.max(
        against(send.lostToViewers / Math.max(1, send.made), clean.lostPercent / 100),
        against(send.awaySeconds, clean.awaySeconds),
        against(send.longestBehindSeconds, clean.behindSeconds),
      ),
    ),
    ...recordings.map((recording) =>
      against(lostOf(recording) / Math.max(1, recording.made), clean.lostPercent / 100),
    ),
  )
  const first = outcome.events.find(
    ({ kind, who }) =>
      (kind === 'drops' || kind === 'gone') && sufferers.sends.some(({ key }) => key === who),
  )
  const firstSend = sufferers.sends.find(({ key }) => key === first?.who)
  return {
    night: outcome.night,
    isClean: suffers.length === 0,
    cause: suffers.length === 0 ? null : cause,
    who: (firstSend ?? suffers[0])?.name ?? null,
    badness,
    lostShare: sends.map((send) => send.lostToViewers / Math.max(1, send.made)),
    awaySeconds: sends.map(({ awaySeconds }) => awaySeconds),
    behindSeconds: sends.map(({ longestBehindSeconds }) => longestBehindSeconds),
    score: sends.map(({ meanScore }) => meanScore),
  }
}

/** The 5th, 50th and 95th percentile of a figure over the nights. */
export interface Spread {
  low: number
  middle: number
  high: number
}

function spreadOf(values: number[]): Spread {
  const sorted = values.sort((a, b) => a - b)
  const at = (share: number): number =>
    sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0
  return { low: at(0.05), middle: at(0.5), high: at(0.95) }
}

/** What many nights come to. */
export interface ManyNights {
  nights: number
  clean: number
  share: ShareOfNights
  /** Unclean nights by what was to blame, the most first, with who suffered first in most of them. */
  causes: { cause: LossCause; nights: number; first: string }[]
  /** By send, in the plan's order. */
  spreads: { lostShare: Spread; awaySeconds: Spread; behindSeconds: Spread; score: Spread }[]
  worst: number | null
  median: number | null
  firstUnclean: number | null
}

/** The nights from the first on without a gap, in order, no more than so many; a run that was stopped has gaps. */
export function nightsFromTheFirst(nights: readonly NightSummary[], most: number): NightSummary[] {
  const sorted = [...nights].sort((a, b) => a.night - b.night).slice(0, most)
  const gap = sorted.findIndex(({ night }, index) => night !== index)
  return gap < 0 ? sorted : sorted.slice(0, gap)
}

const mostOften = (names: readonly (string | null)[]): string => {
  const counts = new Map<string, number>()
  for (const name of names) if (name !== null) counts.set(name, (counts.get(name) ?? 0) + 1)
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? ''
}

export function manyNights(nights: readonly NightSummary[]): ManyNights {
  const clean = nights.filter(({ isClean }) => isClean).length
  const byBadness = [...nights].sort((a, b) => a.badness - b.badness || a.night - b.night)
  const sends = nights[0]?.lostShare.length ?? 0
  const causes = lossCauses
    .map((cause) => {
      const own = nights.filter((night) => night.cause === cause)
      return { cause, nights: own.length, first: mostOften(own.map(({ who }) => who)) }
    })
    .filter((entry) => entry.nights > 0)
    .sort((a, b) => b.nights - a.nights)
  const spread = (
    figure: 'lostShare' | 'awaySeconds' | 'behindSeconds' | 'score',
    index: number,
  ): Spread => spreadOf(nights.map((night) => night[figure][index] ?? 0))
  const unclean = nights.filter(({ isClean }) => !isClean).map(({ night }) => night)
  return {
    nights: nights.length,
    clean,
    share: wilson(clean, nights.length),
    causes,
    spreads: Array.from({ length: sends }, (_, index) => ({
      lostShare: spread('lostShare', index),
      awaySeconds: spread('awaySeconds', index),
      behindSeconds: spread('behindSeconds', index),
      score: spread('score', index),
    })),
    worst: byBadness.at(-1)?.night ?? null,
    median: byBadness[Math.floor(byBadness.length / 2)]?.night ?? null,
    firstUnclean: unclean.length > 0 ? Math.min(...unclean) : null,
  }
}
