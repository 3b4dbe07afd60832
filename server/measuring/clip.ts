import { createWriteStream } from 'node:fs'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { maxPictureSeconds, referenceRate, referenceSize } from '@green-mantle/core/measured'
import type { Rendition } from '@green-mantle/core/show'
import { type Container, containerOfFilm, containerOfOwn, readAs } from '../programs/fileInput'
import { ask, lastWords } from './encoderProgram'

/** A person's clip, piece by piece. */
export interface NamedClip {
  name: string
  pieces: AsyncIterable<Buffer>
}

/** A moving picture in a file. */
export interface Clip {
  path: string
  container: Container
  width: number
  height: number
  framesPerSecond: number
  /** null where the file does not say, as one that a browser recorded. */
  seconds: number | null
}
/** What encodes are made from and held against. */
export interface Reference extends Clip {
  framesPerSecond: Rendition['framesPerSecond']
  seconds: number
}

/** Where work on a clip goes on, and what ends it early. */
export interface Work {
  folder: string
  signal: AbortSignal
}

const longestRunSeconds = 120
/** What is larger takes more memory to decode than a computer may have. */
const maxPixels = 7680 * 4320
/** Where a file says nothing of its frame rate. */
const rateNotSaid = 30
export const quiet = ['-hide_banner', '-nostdin', '-loglevel', 'error', '-y'] as const

/** It was ended early on purpose. */
export class Stopped extends Error {}

const noPicture = 'This clip has no moving picture that can be decoded.'
const noRoom = 'There is no room left on the disk.'
const isFull = (words: string): boolean => /ENOSPC|no space left/i.test(words)

/** Writes a person's file, piece by piece, where programs can read it. Throws in words where the disk is full. */
export async function writeClip(
  path: string,
  pieces: AsyncIterable<Buffer>,
  signal?: AbortSignal,
): Promise<void> {
  await pipeline(Readable.from(pieces), createWriteStream(path), { signal }).catch(
    (error: unknown) => {
      throw isFull(String(error)) ? new Error(`The clip could not be kept. ${noRoom}`) : error
    },
  )
}

/** Runs the encoder program to its end; what it said. Throws in words that begin with `what`. */
export async function run(
  args: readonly string[],
  what: string,
  { signal }: Work,
): Promise<string> {
  const { worked, errors } = await ask('ffmpeg', args, {
    timeLimitSeconds: longestRunSeconds,
    signal,
  })
  if (signal.aborted) throw new Stopped()
  if (!worked) throw new Error(`${what} ${isFull(errors) ? noRoom : lastWords(errors)}`)
  return errors
}

interface Probed {
  streams?: {
    width?: number
    height?: number
    avg_frame_rate?: string
    side_data_list?: { rotation?: number }[]
  }[]
  format?: { duration?: string }
}

/** The size, frame rate and length of the clip's picture, upright. */
export async function lookAtClip(
  path: string,
  { signal }: Pick<Work, 'signal'>,
): Promise<Clip & { isTurned: boolean }> {
  const container = containerOfOwn(path) ?? (await containerOfFilm(path))
  if (!container) throw new Error(noPicture)
  const { output } = await ask(
    'ffprobe',
    [
      ...[
        '-v',
        'error',
        ...readAs(container),
        '-select_streams',
        'v:0',
        '-of',
        'json',
        '-show_entries',
      ],
      ...['stream=width,height,avg_frame_rate:stream_side_data=rotation:format=duration', path],
    ],
    { signal },
  )
  if (signal.aborted) throw new Stopped()
  let probed: Probed = {}
  try {
    probed = JSON.parse(output) as Probed
  } catch {
    // Nothing that could be read: it is told below.
  }
  const [stream] = probed.streams ?? []
  const [frames, per] = (stream?.avg_frame_rate ?? '').split('/').map(Number)
  const length = Number(probed.format?.duration)
  const seconds = length > 0 ? length : null
  const said = (frames ?? 0) / (per ?? 0)
  const rate = said > 0 ? said : rateNotSaid
  // A picture that stands still has neither a length nor a rate.
  if (!stream?.width || !stream.height || (!(said > 0) && seconds === null))
    throw new Error(noPicture)
  if (stream.width * stream.height > maxPixels)
    throw new Error(
      `This clip is ${stream.width}×${stream.height}; at most 7680×4320 pixels are decoded here.`,
    )
  const isTurned =
    stream.side_data_list?.some(({ rotation }) => (rotation ?? 0) % 180 !== 0) ?? false
  const [width, height] = isTurned ? [stream.height, stream.width] : [stream.width, stream.height]
  return { path, container, width, height, framesPerSecond: rate, seconds, isTurned }
}

/** How far two sides of a picture may be from each other's ratio and still be one shape. */
const shapeTolerance = 0.03
const shapeOf = ({ width, height }: Clip): number => width / height

/**
 * What every encode is made from and held against, without a loss of its own: the middle of the clip, of
 * several as much of each, one after the other at the size of the first. Throws, in words, where they are
 * of different shapes.
 */
export async function makeReference(clips: readonly Clip[], work: Work): Promise<Reference> {
  const [first] = clips
  if (!first) throw new Error('There is no clip to measure.')
  const other = clips.find((clip) => Math.abs(shapeOf(clip) / shapeOf(first) - 1) > shapeTolerance)
  if (other)
    throw new Error(
      `The clips are of different shapes, ${first.width}×${first.height} and ${other.width}×${other.height}. Choose two of one canvas.`,
    )
  const size = referenceSize(first)
  const framesPerSecond = referenceRate(Math.max(...clips.map((clip) => clip.framesPerSecond)))
  const longest = maxPictureSeconds / clips.length
  const stretches = clips.map(({ seconds }) => {
    const length = Math.min(longest, seconds ?? longest)
    return { length, from: seconds === null ? 0 : Math.max(0, (seconds - length) / 2) }
  })
  const path = join(work.folder, 'reference.mkv')
  await run(
    [
      ...quiet,
      ...clips.flatMap((clip, index) => {
        const { from, length } = stretches[index] as (typeof stretches)[number]
        return [
          ...readAs(clip.container),
          '-ss',
          from.toFixed(3),
          '-t',
          `${length}`,
          '-i',
          clip.path,
        ]
      }),
      ...['-filter_complex', joined(stretches, { ...size, framesPerSecond }), '-map', '[out]'],
      ...['-c:v', 'utvideo', path],
    ],
    'The clip could not be decoded.',
    work,
  )
  // A clip that said nothing of its length may have been shorter.
  const made = await lookAtClip(path, work)
  const seconds = stretches.reduce((sum, { length }) => sum + length, 0)
  return { ...made, ...size, framesPerSecond, seconds: made.seconds ?? seconds }
}

/** Pictures of one size and rate, one after the other. */
function joined(
  stretches: readonly { length: number }[],
  { width, height, framesPerSecond }: Pick<Reference, 'width' | 'height' | 'framesPerSecond'>,
): string {
  const scaled = stretches.map(({ length }, place) => {
    const frames = Math.max(1, Math.round(length * framesPerSecond))
    return `[${place}:v:0]fps=${framesPerSecond},trim=end_frame=${frames},scale=${width}:${height}:flags=bicubic,setsar=1,format=yuv420p[part${place}]`
  })
  const parts = stretches.map((_, place) => `[part${place}]`).join('')
  return [
    ...scaled,
    `${parts}concat=n=${stretches.length}:v=1,settb=AVTB,setpts=N/${framesPerSecond}/TB[out]`,
  ].join(';')
}
