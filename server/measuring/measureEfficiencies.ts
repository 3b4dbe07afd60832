import { join } from 'node:path'
import { softwareEncoders } from '@green-mantle/core/encoding'
import {
  efficienciesFrom,
  efficiencyBitratesKbps,
  efficiencyClip,
  type EncoderPoints,
  type LikenessPoint,
} from '@green-mantle/core/measured'
import type { Device, Throughput } from '@green-mantle/core/show'
import { quiet, type Work } from './clip'
import { ask } from './encoderProgram'
import { type DeviceEncoder, type EncodeSpec, softwareEncoder } from './measuredEncodes'
import { frameBitrateKbps, readSsim } from './pictureMeasures'

/** What all encodes are made from and held against, and what software H.264 at its finest makes of it. */
export interface LikenessReference {
  path: string
  points: LikenessPoint[]
  work: Work
}

const { width, height, framesPerSecond } = efficiencyClip
/** One that is all motion and has something fine everywhere; without a loss of its own. */
const picture = `mandelbrot=size=${width}x${height}:rate=${framesPerSecond}:start_scale=0.8:end_scale=0.05:end_pts=400`

/** What takes longer for two seconds of a small picture is of no use live. */
const longestEncodeSeconds = 60

/**
 * Makes the picture and encodes it as everything else is measured against; null where that was stopped or
 * failed, so that what is known by then is kept all the same.
 */
export async function makeLikenessReference(
  work: Work,
  seconds: number = efficiencyClip.seconds,
): Promise<LikenessReference | null> {
  const path = join(work.folder, 'likeness.mkv')
  const made = [...quiet, '-f', 'lavfi', '-i', picture, '-t', `${seconds}`]
  const { worked } = await ask(
    'ffmpeg',
    [...made, '-pix_fmt', 'yuv420p', '-c:v', 'utvideo', path],
    { timeLimitSeconds: longestEncodeSeconds, signal: work.signal },
  )
  if (!worked) return null
  const reference = { path, points: [], work }
  const finest = { codec: 'h264', effort: 'finest', width, height } as const
  return { ...reference, points: await pointsOf(finest, softwareEncoder, reference) }
}

/** One encode at each bitrate, held against the original; one that fails leaves its point out. */
async function pointsOf(
  spec: EncodeSpec,
  encoder: DeviceEncoder,
  { path, work }: LikenessReference,
): Promise<LikenessPoint[]> {
  const points: LikenessPoint[] = []
  for (const bitrateKbps of efficiencyBitratesKbps(spec.codec)) {
    if (work.signal.aborted) break
    const { before, after } = encoder(spec, bitrateKbps)
    const encoded = join(work.folder, 'encoded.mkv')
    const { worked } = await ask(
      'ffmpeg',
      [...quiet, ...before, '-i', path, '-map', '0:v:0', ...after, encoded],
      { timeLimitSeconds: longestEncodeSeconds, signal: work.signal },
    )
    if (!worked) continue
    const videoBitrateKbps = await frameBitrateKbps(encoded, framesPerSecond, work.signal)
    const said = await ask(
      'ffmpeg',
      [
        ...['-hide_banner', '-nostdin', '-nostats', '-loglevel', 'info', '-i', encoded],
        ...['-i', path, '-lavfi', '[0:v][1:v]ssim', '-f', 'null', '-'],
      ],
      { timeLimitSeconds: longestEncodeSeconds, signal: work.signal },
    )
    const ssim = readSsim(said.errors)
    if (said.worked && ssim !== null) points.push({ videoBitrateKbps, ssim })
  }
  return points
}

/**
 * What each of a device's encoders gets out of a bit, told after every one with those before it. Ends
 * early when the work is stopped.
 */
export async function* efficienciesOf(
  { throughputs }: Device,
  encoder: DeviceEncoder,
  reference: LikenessReference,
  told: (what: string) => void,
): AsyncGenerator<Pick<Throughput, 'codec' | 'effort' | 'efficiency'>[]> {
  const measured: EncoderPoints[] = []
  for (const { codec, effort } of throughputs) {
    if (reference.work.signal.aborted) return
    told(`${softwareEncoders[codec].name}, ${effort}`)
    const points = await pointsOf({ codec, effort, width, height }, encoder, reference)
    if (reference.work.signal.aborted) return
    measured.push({ codec, effort, points })
    yield efficienciesFrom(measured, reference.points)
  }
}
