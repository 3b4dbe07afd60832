import { encodingDelaySeconds } from '../../media'
import type { Rendition } from '../../show'
import { codecNames } from '../../words'

/** A sentence for each setting of an encode: what it does to picture, delay and load. */
export function encoderSentences(rendition: Rendition): string[] {
  const { encoder, bFrames, keyframeIntervalSeconds, codec } = rendition
  const { rateControl, profile, lookAheadFrames, downscaling } = encoder
  const waits = encodingDelaySeconds(rendition)
  return [
    rateControl === 'constant'
      ? 'Constant bitrate: the line is loaded evenly, and live ingests expect it.'
      : 'Variable bitrate: calm pictures leave bits unused, busy ones may burst past the plan.',
    `A keyframe every ${keyframeIntervalSeconds} s: who joins waits at most so long; more of them cost sharpness.`,
    bFrames === 0
      ? 'No B-frames: the least delay and load, and a little less picture for the bits.'
      : `${bFrames} B-frames: more picture for the bits, for some load and ${Math.round(waits * 1000)} ms of delay with the look-ahead.`,
    ...(codec === 'h264'
      ? [profileSentences[profile]]
      : [`${codecNames[codec]} in its Main profile.`]),
    lookAheadFrames === 0
      ? 'No look-ahead: bits are shared out without knowing what comes.'
      : `${lookAheadFrames} frames of look-ahead: steadier pictures at cuts, for memory and delay.`,
    filterSentences[downscaling],
  ]
}

const profileSentences = {
  high: 'High profile: the most picture for the bits, and what live ingests expect.',
  main: 'Main profile: a little less picture than High, for old receivers.',
  baseline: 'Baseline profile: for the oldest receivers; no B-frames, clearly less picture.',
} as const

/** Common practice, no published source: sharpest with Lanczos, then bicubic, then bilinear. */
const filterSentences = {
  lanczos: 'Lanczos: the sharpest way to make the canvas smaller, at the most load.',
  bicubic: 'Bicubic: nearly as sharp as Lanczos, at less load.',
  bilinear: 'Bilinear: the softest and the lightest.',
} as const
