import { lowestLevel } from '../media'
import type { Rendition } from '../show'
import { softwareEncoders } from './programTables'

type EncodedRendition = Pick<
  Rendition,
  | 'width'
  | 'height'
  | 'framesPerSecond'
  | 'codec'
  | 'effort'
  | 'videoBitrateKbps'
  | 'keyframeIntervalSeconds'
  | 'bFrames'
  | 'encoder'
>

/** Encodes that start together have their keyframes together; each next one is shifted by this share of its interval. */
const keyframeShift = 0.38

/** FFmpeg's filters from a canvas to a rendition. */
export const scalingFilters = ({
  width,
  height,
  framesPerSecond,
  encoder,
}: Pick<Rendition, 'width' | 'height' | 'framesPerSecond' | 'encoder'>): string =>
  `fps=${framesPerSecond},scale=${width}:${height}:flags=${encoder.downscaling},format=yuv420p`

/**
 * FFmpeg's arguments for the software encoder of a rendition. `place` is its place among encodes that
 * start together: the keyframes of each come at another moment, so that their peaks do not add up.
 */
export function videoArguments(rendition: EncodedRendition, place = 0): string[] {
  const { codec, effort, videoBitrateKbps, framesPerSecond, bFrames, encoder } = rendition
  const { name, presets } = softwareEncoders[codec]
  const interval = Math.max(1, Math.round(rendition.keyframeIntervalSeconds * framesPerSecond))
  const isConstant = encoder.rateControl === 'constant'
  const rate = `${videoBitrateKbps}k`
  // SVT-AV1 does not open unless the largest rate is above the target.
  const largestRate = codec === 'av1' ? `${videoBitrateKbps + 1}k` : rate
  const shiftFrames = Math.round(((place * keyframeShift) % 1) * interval)
  return [
    ...['-c:v', name, '-preset', presets[effort]],
    ...['-b:v', rate, '-maxrate:v', largestRate, '-bufsize:v', rate],
    ...(isConstant && codec !== 'av1' ? ['-minrate:v', rate] : []),
    // One keyframe more, after which the interval counts anew.
    ...(shiftFrames > 0 && codec !== 'av1'
      ? ['-force_key_frames', (shiftFrames / framesPerSecond).toFixed(3)]
      : []),
    ...ownArguments(rendition, { interval, isConstant, bFrames }),
  ]
}

function ownArguments(
  rendition: EncodedRendition,
  { interval, isConstant, bFrames }: { interval: number; isConstant: boolean; bFrames: number },
): string[] {
  const { codec, encoder } = rendition
  const lookAhead = encoder.lookAheadFrames
  if (codec === 'av1') return ['-g', `${interval}`]
  if (codec === 'hevc')
    return [
      '-forced-idr',
      '1',
      '-x265-params',
      `log-level=warning:keyint=${interval}:min-keyint=1:scenecut=0:open-gop=0:bframes=${bFrames}:rc-lookahead=${Math.max(lookAhead, bFrames + 1)}`,
    ]
  const level = lowestLevel(rendition)
  return [
    ...['-profile:v', encoder.profile],
    ...(level ? ['-level:v', level] : []),
    ...['-bf', `${encoder.profile === 'baseline' ? 0 : bFrames}`],
    ...['-forced-idr', '1'],
    '-x264-params',
    `keyint=${interval}:min-keyint=1:scenecut=0:rc-lookahead=${lookAhead}${isConstant ? ':nal-hrd=cbr' : ''}`,
  ]
}
