import { fallsShort, type SendHealth } from './health'

/** A stretch in which the line carried less than was sent: what it carried then is what it could. */
export interface Shortage {
  /** Since the observation began. */
  fromSeconds: number
  seconds: number
  carriedKbps: number
}

/** What the line was seen to carry of all sends together, in steps. */
export interface ObservedLine {
  /** While something was sent. */
  seconds: number
  /** Since the observation began, whether or not something was sent. */
  elapsedSeconds: number
  carriedKilobits: number
  /** The stretch that goes on now; null while the line carries all. */
  current: Shortage | null
  shortages: readonly Shortage[]
}

export const noLineObserved: ObservedLine = {
  seconds: 0,
  elapsedSeconds: 0,
  carriedKilobits: 0,
  current: null,
  shortages: [],
}

type LineSend = Pick<
  SendHealth,
  'stage' | 'behindSeconds' | 'kbps' | 'isLossUnknown' | 'losesOnLine'
> & {
  destinationId: string
}

/** A shorter stretch is a hiccup, and says little of the line. */
const minShortageSeconds = 10
const maxShortages = 50

/** What all sends together take of the line now, kb/s; null where nothing is sent, or that is not known of one. */
export function carriedNowKbps(
  sends: readonly Pick<LineSend, 'stage' | 'kbps' | 'isLossUnknown'>[],
): number | null {
  const going = sends.filter(({ stage }) => stage === 'sending')
  if (going.length === 0 || going.some(({ isLossUnknown }) => isLossUnknown)) return null
  return going.reduce((sum, { kbps }) => sum + kbps, 0)
}

/**
 * Whether the line is short: sends to more than one destination are behind, or lose on it. One alone may be its
 * destination's fault, so that nothing is learnt of the line.
 */
export const isLineShort = (sends: readonly LineSend[]): boolean =>
  new Set(
    sends
      .filter((send) => send.stage === 'sending' && fallsShort(send))
      .map(({ destinationId }) => destinationId),
  ).size > 1

const kept = ({ current, shortages }: ObservedLine): readonly Shortage[] =>
  current && current.seconds >= minShortageSeconds && shortages.length < maxShortages
    ? [...shortages, current]
    : shortages

/** Adds the last `seconds`, in which the sends were so. */
export function observeLine(
  before: ObservedLine,
  sends: readonly LineSend[],
  seconds: number,
): ObservedLine {
  const kbps = carriedNowKbps(sends)
  const elapsedSeconds = before.elapsedSeconds + seconds
  if (kbps === null) return { ...before, elapsedSeconds, current: null, shortages: kept(before) }
  const observed = {
    elapsedSeconds,
    seconds: before.seconds + seconds,
    carriedKilobits: before.carriedKilobits + kbps * seconds,
  }
  if (!isLineShort(sends)) return { ...observed, current: null, shortages: kept(before) }
  const { current } = before
  const soFar = current ?? { fromSeconds: before.elapsedSeconds, seconds: 0, carriedKbps: 0 }
  const stretch = soFar.seconds + seconds
  return {
    ...observed,
    shortages: before.shortages,
    current: {
      fromSeconds: soFar.fromSeconds,
      seconds: stretch,
      carriedKbps: (soFar.carriedKbps * soFar.seconds + kbps * seconds) / stretch,
    },
  }
}

/** What it came to: kb/s on average while something was sent, and where the line was short. */
export const lineCarried = (
  observed: ObservedLine,
): { seconds: number; meanKbps: number; shortages: readonly Shortage[] } => ({
  seconds: observed.seconds,
  meanKbps: observed.seconds === 0 ? 0 : observed.carriedKilobits / observed.seconds,
  shortages: kept(observed),
})
