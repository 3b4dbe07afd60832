import { rm } from 'node:fs/promises'
import { availableParallelism, cpus } from 'node:os'
import { join } from 'node:path'
import { videoArguments } from '@green-mantle/core/encoding'
import {
  fitPicture,
  type PictureEncode,
  pictureEffort,
  pictureEncodes,
} from '@green-mantle/core/measured'
import { type MeasuredPoint, newPlanDetails, type OwnPicture } from '@green-mantle/core/show'
import { makeWorkFolder } from '../files/workFolders'
import {
  type Clip,
  lookAtClip,
  makeReference,
  type NamedClip,
  quiet,
  type Reference,
  run,
  Stopped,
  type Work,
  writeClip,
} from './clip'
import { programVersion } from './encoderProgram'
import { frameBitrateKbps, readMeasures } from './pictureMeasures'
import { ownInput } from '../programs/fileInput'

/** What is told while a picture is measured. */
export interface PictureReport {
  doing: string
  done: number
  of: number
  points: MeasuredPoint[]
}

export interface PictureOptions {
  /** One, or two of one shape, as a still scene and a lively one; each piece by piece. */
  clips: readonly NamedClip[]
  signal: AbortSignal
  report: (report: PictureReport) => void
}

/** How often frames are held against the original; every one would tell no more and take four times as long. */
const comparedEvery = 4
/** Visual information fidelity takes a third of a second a frame. */
const informationEvery = 60
/** So much of the clip says what kind it is; its measure is slow too. */
const informationSeconds = 0.4
const fewestPoints = 3
const maxNameLength = 200
const and = ' and '

/** Takes every so many frames, and counts time anew so that both sides of a comparison meet. */
const taking = (every: number, framesPerSecond: number): string =>
  `${every > 1 ? `select='not(mod(n,${every}))',` : ''}settb=AVTB,setpts=N/${framesPerSecond}/TB`

async function encode(
  encoded: PictureEncode,
  reference: Reference,
  place: number,
  work: Work,
): Promise<string> {
  const { width, height, framesPerSecond, everyFrame, videoBitrateKbps } = encoded
  const path = join(work.folder, `${place}.mkv`)
  await run(
    [
      ...[...quiet, ...ownInput(reference.path), '-an', '-vf'],
      `${taking(everyFrame, framesPerSecond)},scale=${width}:${height}:flags=bicubic`,
      ...['-r', `${framesPerSecond}`],
      ...videoArguments({
        ...{ codec: 'h264', effort: pictureEffort, width, height, videoBitrateKbps },
        framesPerSecond,
        keyframeIntervalSeconds: 2,
        bFrames: 2,
        encoder: newPlanDetails().encoder,
      }),
      path,
    ],
    'An encode of the clip failed.',
    work,
  )
  return path
}

/** An encode scaled back to the clip's size and held against it. */
async function compare(
  path: string,
  { framesPerSecond, everyFrame }: PictureEncode,
  reference: Reference,
  work: Work,
): Promise<Pick<MeasuredPoint, 'ssim' | 'vif' | 'psnrDecibels'>> {
  const sampled = `select='not(mod(n,${comparedEvery}))'`
  const rare = `select='not(mod(n,${informationEvery / comparedEvery}))'`
  const said = await run(
    [
      ...['-hide_banner', '-nostdin', '-nostats', '-loglevel', 'info', ...ownInput(path)],
      ...[...ownInput(reference.path), '-filter_complex'],
      [
        `[0:v]${taking(1, framesPerSecond)},${sampled},scale=${reference.width}:${reference.height}:flags=bicubic,format=yuv420p,split=3[a][b][c]`,
        `[1:v]${taking(everyFrame, framesPerSecond)},${sampled},split=3[x][y][z]`,
        '[a][x]ssim[o]',
        '[b][y]psnr[p]',
        `[c]${rare}[cc]`,
        `[z]${rare}[zz]`,
        '[cc][zz]vif[q]',
      ].join(';'),
      ...['-map', '[o]', '-map', '[p]', '-map', '[q]', '-f', 'null', '-'],
    ],
    'An encode could not be held against the clip.',
    work,
  )
  return readMeasures(said)
}

/** One encode of the clip, and how alike it is. `place` names its file among others. */
export async function measurePoint(
  encoded: PictureEncode,
  reference: Reference,
  place: number,
  work: Work,
): Promise<MeasuredPoint> {
  const { width, height, framesPerSecond } = encoded
  const made = await encode(encoded, reference, place, work)
  const videoBitrateKbps = await frameBitrateKbps(made, framesPerSecond, work.signal)
  const measures = await compare(made, encoded, reference, work)
  await rm(made)
  return { width, height, framesPerSecond, videoBitrateKbps, ...measures }
}

/** Spatial and temporal information (ITU-T P.910), mean over a short while of each clip. */
async function informationOf(
  reference: Reference,
  clipCount: number,
  work: Work,
): Promise<[number, number]> {
  const found: [number, number][] = []
  for (let clip = 0; clip < clipCount; clip += 1)
    found.push(await informationFrom(reference, (clip * reference.seconds) / clipCount, work))
  const mean = (place: 0 | 1): number =>
    found.reduce((sum, each) => sum + each[place], 0) / found.length
  return [mean(0), mean(1)]
}

async function informationFrom(
  reference: Reference,
  fromSeconds: number,
  work: Work,
): Promise<[number, number]> {
  const said = await run(
    [
      ...['-hide_banner', '-nostdin', '-nostats', '-loglevel', 'info'],
      ...ownInput(reference.path, '-ss', fromSeconds.toFixed(3), '-t', `${informationSeconds}`),
      ...['-vf', 'siti=print_summary=1', '-f', 'null', '-'],
    ],
    'The clip could not be looked through.',
    work,
  )
  const [spatial, temporal] = [...said.matchAll(/Average: ([\d.]+)/g)].map(([, value]) =>
    Number(value),
  )
  return [spatial ?? 0, temporal ?? 0]
}

/** Written where programs can read them, and gone once the reference is made. */
async function referenceOf(clips: PictureOptions['clips'], work: Work): Promise<Reference> {
  const looked: Clip[] = []
  for (const [index, { pieces }] of clips.entries()) {
    const path = join(work.folder, `clip ${index}`)
    await writeClip(path, pieces, work.signal)
    looked.push(await lookAtClip(path, work))
  }
  const reference = await makeReference(looked, work)
  for (const { path } of looked) await rm(path)
  return reference
}

/** Both names, each shortened so that both are seen. */
function nameOf(clips: PictureOptions['clips']): string {
  const each = Math.floor((maxNameLength - (clips.length - 1) * and.length) / clips.length)
  return clips
    .map(({ name }) => (name.length > each ? `${name.slice(0, each - 1)}…` : name))
    .join(and)
}

/**
 * Measures what the picture of a clip needs, by short encodes held against it; see docs/measured.md.
 * Stopped early it gives what is known, where that is enough to fit. Throws in words.
 */
export async function measurePicture(options: PictureOptions): Promise<OwnPicture> {
  const { signal, report, clips } = options
  const folder = await makeWorkFolder('picture')
  const work: Work = { folder, signal }
  try {
    const reference = await referenceOf(clips, work)
    const encodes = pictureEncodes(reference)
    const points: MeasuredPoint[] = []
    const tell = (doing: string): void =>
      report({ doing, done: points.length, of: encodes.length, points: [...points] })
    tell('Looking through the clip')
    const [spatialInformation, temporalInformation] = await informationOf(
      reference,
      clips.length,
      work,
    )

    const left = [...encodes.entries()]
    const lane = async (): Promise<void> => {
      for (let next = left.shift(); next && !signal.aborted; next = left.shift()) {
        const [place, encoded] = next
        const { width, height, framesPerSecond, videoBitrateKbps } = encoded
        tell(`${width}×${height} at ${framesPerSecond} fps, ${videoBitrateKbps} kb/s`)
        points.push(
          await measurePoint(encoded, reference, place, work).catch((error: unknown) => {
            // What one could not do, the others need not try.
            left.length = 0
            throw error
          }),
        )
      }
    }
    const ends = await Promise.allSettled(
      Array.from({ length: Math.min(4, availableParallelism()) }, lane),
    )
    for (const end of ends)
      if (end.status === 'rejected' && !(end.reason instanceof Stopped)) throw end.reason
    if (points.length < fewestPoints)
      throw new Error('It was stopped before enough was known of the picture.')
    const { width, height, framesPerSecond, seconds } = reference
    const measured = {
      clip: { width, height, framesPerSecond, seconds },
      effort: pictureEffort,
      points,
    }
    return {
      name: nameOf(clips),
      measuredAt: new Date().toISOString(),
      program: await programVersion(),
      processor: cpus()[0]?.model.trim() || 'Processor',
      spatialInformation,
      temporalInformation,
      ...measured,
      ...fitPicture(measured),
    }
  } catch (error) {
    throw signal.aborted
      ? new Error('It was stopped before enough was known of the picture.')
      : error
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
