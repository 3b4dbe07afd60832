import { join } from 'node:path'
import {
  type GraphicsFamily,
  graphicsEncoderName,
  videoArguments,
} from '@green-mantle/core/encoding'
import type { MixedEncode } from '@green-mantle/core/measured'
import { newPlanDetails, type Size } from '@green-mantle/core/show'
import { ask } from './encoderProgram'
import { ownInput } from '../programs/fileInput'

const clipSeconds = 3
const clipFramesPerSecond = 30

/** The same pictures for every run, by their width: a moving one with grain, cheap to decode. */
export async function makeClips(
  folder: string,
  sizes: readonly Size[],
): Promise<Map<number, string>> {
  const clips = new Map<number, string>()
  for (const { width, height } of sizes) {
    const path = join(folder, `${width}x${height}.mkv`)
    const { worked, errors } = await ask('ffmpeg', [
      ...['-loglevel', 'error', '-nostdin', '-y', '-f', 'lavfi', '-i'],
      `testsrc2=size=${width}x${height}:rate=${clipFramesPerSecond}:duration=${clipSeconds},noise=alls=12:allf=t`,
      ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '22', '-pix_fmt', 'yuv420p', path],
    ])
    if (!worked) throw new Error(`The pictures to measure with could not be made: ${errors}`)
    clips.set(width, path)
  }
  return clips
}

export const inputOf = (clip: string): string[] => ownInput(clip, '-stream_loop', '-1')
export const nowhere = ['-f', 'null', '-']

/** Bits that a picture of this size is usually given, so that the encoder has its usual work. */
const defaultBitrateKbps = ({ width, height }: { width: number; height: number }): number =>
  Math.max(200, Math.round((width * height * clipFramesPerSecond * 0.1) / 1000))

export type EncodeSpec = MixedEncode

/** How a device encodes a picture: what FFmpeg is told before its input and after it. */
export interface DeviceEncode {
  before: readonly string[]
  after: readonly string[]
}
export type DeviceEncoder = (spec: EncodeSpec, videoBitrateKbps?: number) => DeviceEncode

export const softwareEncoder: DeviceEncoder = (
  spec,
  videoBitrateKbps = defaultBitrateKbps(spec),
) => ({
  before: [],
  after: [
    ...['-pix_fmt', 'yuv420p'],
    ...videoArguments({
      ...spec,
      framesPerSecond: clipFramesPerSecond,
      videoBitrateKbps,
      keyframeIntervalSeconds: 2,
      bFrames: 2,
      encoder: newPlanDetails().encoder,
    }),
  ],
})

export const graphicsEncoder =
  (family: GraphicsFamily): DeviceEncoder =>
  ({ codec, effort, ...size }, videoBitrateKbps = defaultBitrateKbps(size)) => ({
    before: family.deviceArguments,
    after: [
      ...['-vf', family.filter],
      ...['-c:v', graphicsEncoderName(codec, family), ...family.effortArguments[effort]],
      ...['-b:v', `${videoBitrateKbps}k`, '-g', `${2 * clipFramesPerSecond}`],
    ],
  })

/** Encodes a clip over and over, as fast as it goes, and keeps nothing of it. */
export const endlessly = (clip: string, { before, after }: DeviceEncode): string[] => [
  ...before,
  ...inputOf(clip),
  ...['-map', '0:v:0', ...after],
  ...nowhere,
]
