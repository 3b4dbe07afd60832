import { type Mix, mixes } from '../show'
import { type OnAirMessage, onAirSound, soundFrameBytes } from './messages'

/** With nothing from the on-air window for so long, the standby scene goes out: seen within a second. */
export const standbyAfterMilliseconds = 750
/** Sound that has not come by then is silence: it never holds a picture up. */
const maxSoundLateMilliseconds = 700
const standbySeconds = 1

/** What goes on from the server, on one clock that never jumps back. */
export type OutPiece =
  | { kind: 'picture'; atMilliseconds: number; isKey: boolean; bytes: Uint8Array }
  | { kind: 'sound'; mix: Mix; atMilliseconds: number; bytes: Uint8Array }

type Picture = Extract<OnAirMessage, { kind: 'picture' }>
type Sound = Extract<OnAirMessage, { kind: 'sound' }>

const samplesIn = (milliseconds: number): number =>
  Math.round((milliseconds * onAirSound.sampleRateHz) / 1000)
const millisecondsOf = (samples: number): number => (samples * 1000) / onAirSound.sampleRateHz

/**
 * One canvas as it goes on: what the on-air window sends while it does, the standby scene while it does not.
 * Times are milliseconds of a monotonic clock. A window that comes, or comes back, joins at a keyframe; what
 * is on its way from before is left out.
 */
export function newTimeline(framesPerSecond: number) {
  const frameMilliseconds = 1000 / framesPerSecond
  let startedAt: number | undefined
  /** What is added to the window's times; undefined while no window has joined. */
  let offset: number | undefined
  let heardAt = 0
  let lastPictureAt = -Infinity
  let standby: Uint8Array[] = []
  let standbyFrames = 0
  let isStandby = false
  const samplesOut: Record<Mix, number> = { live: 0, archive: 0 }

  const silence = (mix: Mix, until: number): OutPiece[] => {
    const count = until - samplesOut[mix]
    if (count <= 0) return []
    const atMilliseconds = millisecondsOf(samplesOut[mix])
    samplesOut[mix] = until
    return [{ kind: 'sound', mix, atMilliseconds, bytes: new Uint8Array(count * soundFrameBytes) }]
  }
  const silenceUntil = (milliseconds: number): OutPiece[] =>
    mixes.flatMap((mix) => silence(mix, samplesIn(milliseconds)))

  function out(atMilliseconds: number, isKey: boolean, bytes: Uint8Array): OutPiece[] {
    lastPictureAt = atMilliseconds
    return [{ kind: 'picture', atMilliseconds, isKey, bytes }]
  }

  function picture({ atMicroseconds, isKey, bytes }: Picture, now: number): OutPiece[] {
    heardAt = now
    const own = atMicroseconds / 1000
    if (offset === undefined) {
      if (!isKey) return []
      startedAt ??= now
      offset = Math.max(now - startedAt, lastPictureAt + frameMilliseconds) - own
      isStandby = false
    }
    const at = own + offset
    // A window whose clock went back, or that sends what it sent before.
    if (at <= lastPictureAt) return []
    return [...out(at, isKey, bytes), ...silenceUntil(at - maxSoundLateMilliseconds)]
  }

  function sound({ mix, firstSample, bytes }: Sound): OutPiece[] {
    if (offset === undefined) return []
    const from = firstSample + samplesIn(offset)
    const skipped = Math.max(0, samplesOut[mix] - from)
    const rest = bytes.subarray(skipped * soundFrameBytes)
    if (rest.length === 0) return []
    const before = silence(mix, from)
    const atMilliseconds = millisecondsOf(samplesOut[mix])
    samplesOut[mix] += rest.length / soundFrameBytes
    return [...before, { kind: 'sound', mix, atMilliseconds, bytes: rest }]
  }

  /** What is due although nothing came; to be called several times a second. */
  function tick(now: number): OutPiece[] {
    const isAway = now - heardAt > standbyAfterMilliseconds
    if (startedAt === undefined || !isAway || standby.length === 0) return []
    if (!isStandby) {
      // It has to join anew, at a keyframe.
      ;[isStandby, offset, standbyFrames] = [true, undefined, 0]
    }
    const pieces: OutPiece[] = []
    const due = now - startedAt
    let at = Math.max(
      lastPictureAt + frameMilliseconds,
      standbyFrames === 0 ? due - frameMilliseconds : -Infinity,
    )
    for (; at <= due; at += frameMilliseconds) {
      const index = standbyFrames % standby.length
      pieces.push(...out(at, index === 0, standby[index] as Uint8Array))
      standbyFrames += 1
    }
    return [...pieces, ...silenceUntil(lastPictureAt)]
  }

  return {
    picture,
    sound,
    tick,
    /** The window is gone for sure: the standby scene goes out at once, and another window joins anew. */
    left(): void {
      offset = undefined
      heardAt = -Infinity
    },
    /** One picture of the standby scene, from the first on; it repeats itself each second. */
    keepStandby(index: number, bytes: Uint8Array): void {
      if (index === 0) standby = []
      if (index === standby.length && index < framesPerSecond * standbySeconds)
        standby.push(bytes.slice())
    },
    get isStandby(): boolean {
      return isStandby
    },
    get hasStandby(): boolean {
      return standby.length > 0
    },
    get hasBegun(): boolean {
      return startedAt !== undefined
    },
  }
}
export type Timeline = ReturnType<typeof newTimeline>
