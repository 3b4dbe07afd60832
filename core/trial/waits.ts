import type { ArrivedFrame } from '../arrival'
import { type Destination, sendingLimits, type Show } from '../show'
import type { TrialResult } from './trial'

const pictureOf = (frames: readonly ArrivedFrame[]): ArrivedFrame[] =>
  frames.filter(({ kind }) => kind === 'video').sort((a, b) => a.decodeSeconds - b.decodeSeconds)

/**
 * The longest that a frame of the picture waited on its way, in seconds, beyond the one that waited
 * least: by the listener's clock against the stream's. null before there are two.
 */
export function longestWaitSeconds(frames: readonly ArrivedFrame[]): number | null {
  const waits = pictureOf(frames).map(({ atSeconds, decodeSeconds }) => atSeconds - decodeSeconds)
  if (waits.length < 2) return null
  const least = waits.reduce((a, b) => Math.min(a, b))
  return waits.reduce((a, b) => Math.max(a, b)) - least
}

/** Seconds of the picture that are missing between frames that came, by the stream's clock. */
export function missingSeconds(frames: readonly ArrivedFrame[], framesPerSecond: number): number {
  const interval = 1 / framesPerSecond
  return pictureOf(frames).reduce((sum, { decodeSeconds }, index, all) => {
    const before = all[index - 1]
    const gap = before ? decodeSeconds - before.decodeSeconds - interval : 0
    // Times are in whole milliseconds, so that half an interval is no frame.
    return gap > interval / 2 ? sum + gap : sum
  }, 0)
}

/** A longer wait that a destination's sender could be given. */
export interface LongerWait {
  destinationId: string
  name: string
  droppedSeconds: number
  fromSeconds: number
  toSeconds: number
}

/** Less than this is a frame or two, which nobody misses. */
const minDroppedSeconds = 0.1
/** Where more than this share of a send was dropped the line is too small for it, and no wait mends that. */
const maxDroppedShare = 0.25
const wholeStepSeconds = 0.5

/** Over SRT nothing waits at the sender: what does not get through is lost on the way. */
const dropsWhatWaits = ({ sending, protocol }: Destination): boolean =>
  sending.whenBehind !== 'hold' && protocol !== 'srt' && protocol !== 'whip'

/**
 * The waits that would have held what senders dropped in a trial: never more than what was dropped
 * longer, since a sender that drops goes on with a queue that is no longer. None over SRT, for a
 * destination that holds, that lost next to nothing, or whose line was too small for it altogether.
 */
export function longerWaits(
  { destinations }: Pick<Show, 'destinations'>,
  { sends, seconds }: Pick<TrialResult, 'sends' | 'seconds'>,
): LongerWait[] {
  return destinations.filter(dropsWhatWaits).flatMap((destination): LongerWait[] => {
    const { id, name, sending } = destination
    const droppedSeconds = sends
      .filter(({ key }) => key.startsWith(`${id} `))
      .reduce((most, send) => Math.max(most, send.droppedSeconds ?? 0), 0)
    if (droppedSeconds < minDroppedSeconds || droppedSeconds > maxDroppedShare * seconds) return []
    const fromSeconds = sending.mostWaitSeconds
    const wanted = fromSeconds + droppedSeconds
    const toSeconds = Math.ceil(wanted / wholeStepSeconds) * wholeStepSeconds
    return toSeconds > sendingLimits.mostWaitSeconds.max
      ? []
      : [{ destinationId: id, name, droppedSeconds, fromSeconds, toSeconds }]
  })
}
