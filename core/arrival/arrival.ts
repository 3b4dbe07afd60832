import type { AudioCodec, Codec } from '../show'

/** One frame as it came in. Times in seconds: `decode` and `present` on the stream's clock, `at` on the listener's. */
export interface ArrivedFrame {
  kind: 'video' | 'audio'
  bytes: number
  decodeSeconds: number
  presentSeconds: number
  isKey: boolean
  atSeconds: number
}

/** What the head of the stream says of its picture; null where it does not. */
export interface ArrivedPicture {
  codec: Codec | null
  /** As the codec's standard names it: "High", "Main". */
  profile: string | null
  level: string | null
  /** Whether its lines come in two halves; not said where that is not known. */
  isInterlaced?: boolean
  width: number | null
  height: number | null
}

export interface ArrivedSound {
  codec: AudioCodec | null
  /** Its kind beside plain AAC: HE-AAC keeps half the sample rate and makes the rest up. */
  isHighEfficiency?: boolean
  sampleRateHz: number | null
  channels: number | null
}

/** What was seen and heard in the decoded stream. */
export interface WatchedStretches {
  /** Since when, on the stream's clock, the picture has not moved or there is no sound; null where it does and there is. */
  frozenSinceSeconds: number | null
  silentSinceSeconds: number | null
}

/** All that a listener keeps of one send. */
export interface Arrival {
  /** On the listener's clock; null before anything came. */
  beganAtSeconds: number | null
  /** Of the last so many seconds. */
  frames: ArrivedFrame[]
  picture: ArrivedPicture | null
  sound: ArrivedSound | null
  watched: WatchedStretches
  /** Over everything so far. */
  totalBytes: number
  videoFrames: number
  longestKeyframeSpacingSeconds: number
  shortestKeyframeSpacingSeconds: number
  /** The longest that nothing came. */
  longestGapSeconds: number
}

/** How much of a send is kept frame by frame. */
export const keptSeconds = 180
const maxFrames = 60_000

export const nothingArrived = (): Arrival => ({
  beganAtSeconds: null,
  frames: [],
  picture: null,
  sound: null,
  watched: { frozenSinceSeconds: null, silentSinceSeconds: null },
  totalBytes: 0,
  videoFrames: 0,
  longestKeyframeSpacingSeconds: 0,
  shortestKeyframeSpacingSeconds: Infinity,
  longestGapSeconds: 0,
})

/** Takes one frame in; changes `arrival`, since frames come by the hundred a second. */
export function takeFrame(arrival: Arrival, frame: ArrivedFrame): void {
  const { frames } = arrival
  const last = frames.at(-1)
  arrival.beganAtSeconds ??= frame.atSeconds
  arrival.totalBytes += frame.bytes
  if (last)
    arrival.longestGapSeconds = Math.max(
      arrival.longestGapSeconds,
      frame.atSeconds - last.atSeconds,
    )
  if (frame.kind === 'video') {
    arrival.videoFrames += 1
    if (frame.isKey) noteKeyframe(arrival, frame)
  }
  frames.push(frame)
  // Cut now and then rather than at every frame.
  const first = frames[0] as ArrivedFrame
  if (frames.length > maxFrames || frame.atSeconds - first.atSeconds > keptSeconds * 1.1) {
    const from = frames.findIndex(({ atSeconds }) => frame.atSeconds - atSeconds <= keptSeconds)
    frames.splice(0, Math.max(from, frames.length - maxFrames))
  }
}

function noteKeyframe(arrival: Arrival, { decodeSeconds }: ArrivedFrame): void {
  const last = arrival.frames.findLast(({ kind, isKey }) => kind === 'video' && isKey)
  if (!last) return
  const spacing = decodeSeconds - last.decodeSeconds
  if (spacing <= 0) return
  arrival.longestKeyframeSpacingSeconds = Math.max(arrival.longestKeyframeSpacingSeconds, spacing)
  arrival.shortestKeyframeSpacingSeconds = Math.min(arrival.shortestKeyframeSpacingSeconds, spacing)
}
