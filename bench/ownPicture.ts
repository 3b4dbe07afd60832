import { createReadStream } from 'node:fs'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { crossingKbps, scoreFromSsim } from '@green-mantle/core/media'
import { interpolatedScore, modelErrors, type PictureEncode } from '@green-mantle/core/measured'
import {
  type MeasuredPoint,
  newRendition,
  type OwnPicture,
  pictureKinds,
  type PictureKind,
} from '@green-mantle/core/show'
import { pictureClasses } from '@green-mantle/core/media'
import { lookAtClip, makeReference, type Reference, run } from '../server/measuring/clip'
import { measurePicture, measurePoint } from '../server/measuring/measurePicture'
import type { Area, Figure } from './figure'

/** Moving pictures without a camera: one that is all motion, one in which little moves. */
const clips: Record<string, string> = {
  lively: 'mandelbrot=size=1920x1080:rate=60:start_scale=0.8:end_scale=0.05:end_pts=400',
  calm: 'testsrc2=size=1920x1080:rate=60',
}
const [large, small] = [
  { width: 1920, height: 1080 },
  { width: 1280, height: 720 },
] as const
/** Between and around the bitrates that are measured, of sizes and rates that are and of one that is not. */
const heldOut: Omit<PictureEncode, 'everyFrame'>[] = [
  ...[3000, 4000, 6000, 8000].flatMap((videoBitrateKbps) =>
    [large, small].map((size) => ({ ...size, framesPerSecond: 60 as const, videoBitrateKbps })),
  ),
  { ...large, framesPerSecond: 30, videoBitrateKbps: 3500 },
  { ...small, framesPerSecond: 30, videoBitrateKbps: 1600 },
  { width: 1600, height: 900, framesPerSecond: 60, videoBitrateKbps: 4000 },
]

/** Where the larger size begins to be more alike, straight between the points over ln(kb/s); null where they do not cross. */
function measuredCrossing(points: readonly MeasuredPoint[]): number | null {
  const of = ({ width }: { width: number }) =>
    points
      .filter((point) => point.width === width && point.framesPerSecond === 60)
      .map((point) => [Math.log(point.videoBitrateKbps), scoreFromSsim(point.ssim)] as const)
      .sort(([a], [b]) => a - b)
  const at = (line: ReturnType<typeof of>, place: number): number => {
    const above = Math.min(
      line.length - 1,
      Math.max(
        1,
        line.findIndex(([x]) => x >= place),
      ),
    )
    const [[x0, y0], [x1, y1]] = [line[above - 1]!, line[above]!]
    return y0 + ((y1 - y0) * (place - x0)) / (x1 - x0)
  }
  const [ofLarge, ofSmall] = [of(large), of(small)]
  for (let kbps = 2000; kbps < 12_000; kbps += 10) {
    const lead = at(ofLarge, Math.log(kbps)) - at(ofSmall, Math.log(kbps))
    if (lead > 0) return kbps === 2000 ? null : kbps
  }
  return null
}

async function measureHeldOut(reference: Reference, folder: string): Promise<MeasuredPoint[]> {
  const points: MeasuredPoint[] = []
  const signal = new AbortController().signal
  for (const [place, encode] of heldOut.entries())
    points.push(
      await measurePoint(
        { ...encode, everyFrame: encode.framesPerSecond === 30 ? 2 : 1 },
        reference,
        place,
        { folder, signal },
      ),
    )
  return points
}

const meanError = (points: readonly MeasuredPoint[], said: (point: MeasuredPoint) => number) =>
  points.reduce((sum, point) => sum + Math.abs(said(point) - scoreFromSsim(point.ssim)), 0) /
  points.length

function figuresOf(name: string, picture: OwnPicture, held: readonly MeasuredPoint[]): Figure[] {
  const beside = { ...picture, points: [...held] }
  const ofKind = (nearestKind: PictureKind): number =>
    modelErrors(beside, {
      nearestKind,
      cleanBitrateKbps: pictureClasses[nearestKind].cleanBitrateKbps,
    }).mean
  const crossing = measuredCrossing([...held, ...picture.points])
  const said = crossingKbps(
    { ...newRendition('bench', 'landscape'), codec: 'h264', effort: picture.effort },
    { ...small, framesPerSecond: 60 },
    { ...large, framesPerSecond: 60 },
    picture,
    'desk',
    { fromKbps: 2000, toKbps: 12_000 },
  )
  return [
    { name: `${name}.bits_for_clean`, value: picture.cleanBitrateKbps, unit: 'kb/s' },
    ...pictureKinds.map((kind) => ({
      name: `${name}.error_as_${kind}`,
      value: ofKind(kind),
      unit: 'points',
    })),
    {
      name: `${name}.error_fitted_form`,
      value: modelErrors(beside, picture).mean,
      unit: 'points',
    },
    {
      name: `${name}.error_measured`,
      value: meanError(held, (point) => interpolatedScore(point, picture, picture)),
      unit: 'points',
    },
    { name: `${name}.crossing_measured`, value: crossing ?? Number.NaN, unit: 'kb/s' },
    { name: `${name}.crossing_said`, value: said ?? Number.NaN, unit: 'kb/s' },
  ]
}

/** What measuring a picture gains: errors over encodes that were not measured, before and after, and how long it takes. */
const area: Area = async () => {
  const folder = await mkdtemp(join(tmpdir(), 'green-mantle-bench-'))
  const work = { folder, signal: new AbortController().signal }
  const figures: Figure[] = []
  try {
    for (const [name, source] of Object.entries(clips)) {
      const path = join(folder, `${name}.mp4`)
      await run(
        [
          ...['-loglevel', 'error', '-nostdin', '-y', '-f', 'lavfi', '-i', source, '-t', '6'],
          ...['-vf', 'noise=alls=3:allf=t', '-c:v', 'libx264', '-preset', 'ultrafast'],
          ...['-crf', '10', '-pix_fmt', 'yuv420p', path],
        ],
        'The clip was not made.',
        work,
      )
      const started = performance.now()
      const picture = await measurePicture({
        clips: [{ name, pieces: createReadStream(path) as AsyncIterable<Buffer> }],
        signal: work.signal,
        report: () => {},
      })
      figures.push({
        name: `${name}.takes`,
        value: (performance.now() - started) / 1000,
        unit: 's',
      })
      const reference = await makeReference([await lookAtClip(path, work)], work)
      figures.push(...figuresOf(name, picture, await measureHeldOut(reference, folder)))
    }
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
  return figures
}
export default area
