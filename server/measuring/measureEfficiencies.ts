import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { softwareEncoders } from '@green-mantle/core/encoding'
import {
  efficienciesFrom,
  efficiencyBitratesKbps,
  efficiencyClip,
  type EncoderPoints,
  furtherBitrateKbps,
  type LikenessPoint,
} from '@green-mantle/core/measured'
import type { Device, Throughput } from '@green-mantle/core/show'
import { lookAtClip, quiet, run, type Work, writeClip } from './clip'
import { ask } from './encoderProgram'
import { type DeviceEncoder, type EncodeSpec, softwareEncoder } from './measuredEncodes'
import { frameBitrateKbps, readSsim } from './pictureMeasures'
import { ownInput, readAs } from '../programs/fileInput'

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

const originalIn = ({ folder }: Pick<Work, 'folder'>): string => join(folder, 'likeness.mkv')

/** The middle of a person's clip, to be measured by instead. Throws in words where it cannot be decoded or is too short. */
export async function makeOriginalFrom(
  pieces: AsyncIterable<Buffer>,
  work: Work,
  wantedSeconds: number = efficiencyClip.seconds,
): Promise<void> {
  const path = join(work.folder, 'own-clip')
  await writeClip(path, pieces, work.signal)
  const clip = await lookAtClip(path, work)
  if (clip.seconds !== null && clip.seconds < wantedSeconds)
    throw new Error(
      `This clip is ${clip.seconds.toFixed(1)} s long; what encoders get out of a bit is measured by ${wantedSeconds} s.`,
    )
  const from = clip.seconds === null ? 0 : (clip.seconds - wantedSeconds) / 2
  // Filled rather than shrunk: what is fine in it stays so.
  const filled = `scale=${width}:${height}:force_original_aspect_ratio=increase:flags=bicubic,crop=${width}:${height}`
  await run(
    [
      ...[...quiet, ...readAs(clip.container), '-ss', from.toFixed(3), '-i', path],
      ...['-map', '0:v:0', '-vf', `fps=${framesPerSecond},${filled},setsar=1,format=yuv420p`],
      ...['-frames:v', `${Math.round(wantedSeconds * framesPerSecond)}`, '-an'],
      ...['-c:v', 'utvideo', originalIn(work)],
    ],
    'The clip could not be decoded.',
    work,
  )
  await rm(path)
}

/** The picture that is made where no clip was chosen; false where that was stopped or failed. */
async function makeOriginal(work: Work, seconds: number): Promise<boolean> {
  const made = [...quiet, '-f', 'lavfi', '-i', picture, '-t', `${seconds}`]
  const { worked } = await ask(
    'ffmpeg',
    [...made, '-pix_fmt', 'yuv420p', '-c:v', 'utvideo', originalIn(work)],
    { timeLimitSeconds: longestEncodeSeconds, signal: work.signal },
  )
  return worked
}

/**
 * Encodes what everything else is measured against, a made picture where there is none of a clip; null
 * where that was stopped or failed, so that what is known by then is kept all the same.
 */
export async function makeLikenessReference(
  work: Work,
  {
    isOriginalThere = false,
    seconds = efficiencyClip.seconds,
  }: { isOriginalThere?: boolean; seconds?: number } = {},
): Promise<LikenessReference | null> {
  if (!isOriginalThere && !(await makeOriginal(work, seconds))) return null
  const reference = { path: originalIn(work), points: [], work }
  const finest = { codec: 'h264', effort: 'finest', width, height } as const
  return { ...reference, points: await pointsOf(finest, softwareEncoder, reference) }
}

/** One encode, held against the original; null where it failed. */
async function pointOf(
  { before, after }: ReturnType<DeviceEncoder>,
  { path, work }: LikenessReference,
): Promise<LikenessPoint | null> {
  const encoded = join(work.folder, 'encoded.mkv')
  const { worked } = await ask(
    'ffmpeg',
    [...quiet, ...before, ...ownInput(path), '-map', '0:v:0', ...after, encoded],
    { timeLimitSeconds: longestEncodeSeconds, signal: work.signal },
  )
  if (!worked) return null
  const videoBitrateKbps = await frameBitrateKbps(encoded, framesPerSecond, work.signal)
  const said = await ask(
    'ffmpeg',
    [
      ...['-hide_banner', '-nostdin', '-nostats', '-loglevel', 'info'],
      ...[...ownInput(encoded), ...ownInput(path), '-lavfi', '[0:v][1:v]ssim', '-f', 'null', '-'],
    ],
    { timeLimitSeconds: longestEncodeSeconds, signal: work.signal },
  )
  const ssim = readSsim(said.errors)
  return said.worked && ssim !== null ? { videoBitrateKbps, ssim } : null
}

/** An encode at each bitrate, and at further ones where those have too little in common with the reference. */
async function pointsOf(
  spec: EncodeSpec,
  encoder: DeviceEncoder,
  reference: LikenessReference,
): Promise<LikenessPoint[]> {
  const { codec } = spec
  const { signal } = reference.work
  const points: LikenessPoint[] = []
  const add = async (bitrateKbps: number): Promise<boolean> => {
    const point = await pointOf(encoder(spec, bitrateKbps), reference)
    if (point) points.push(point)
    return point !== null
  }
  for (const bitrateKbps of efficiencyBitratesKbps(codec))
    if (!signal.aborted) await add(bitrateKbps)
  // The reference itself has nothing to be held against.
  if (reference.points.length === 0) return points
  for (;;) {
    const bitrateKbps = furtherBitrateKbps({ codec, points }, reference.points)
    if (bitrateKbps === null || signal.aborted || !(await add(bitrateKbps))) return points
  }
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
