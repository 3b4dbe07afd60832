import { join } from 'node:path'
import { videoArguments } from '@green-mantle/core/encoding'
import type { PlannedRun } from '@green-mantle/core/measured'
import { newPlanDetails, type Size } from '@green-mantle/core/show'
import { ask } from './encoderProgram'

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

export const inputOf = (clip: string): string[] => ['-stream_loop', '-1', '-i', clip]
export const nowhere = ['-f', 'null', '-']

/** Bits that a picture of this size is usually given, so that the encoder has its usual work. */
export const defaultBitrateKbps = ({ width, height }: { width: number; height: number }): number =>
  Math.max(200, Math.round((width * height * clipFramesPerSecond * 0.1) / 1000))

export type EncodeSpec = Omit<PlannedRun, 'atOnce'>

export const softwareEncode = (clip: string, spec: EncodeSpec): string[] => [
  ...inputOf(clip),
  ...['-map', '0:v:0', '-pix_fmt', 'yuv420p'],
  ...videoArguments({
    ...spec,
    framesPerSecond: 30,
    videoBitrateKbps: defaultBitrateKbps(spec),
    keyframeIntervalSeconds: 2,
    bFrames: 2,
    encoder: newPlanDetails().encoder,
  }),
  ...nowhere,
]
