import { readFile, rm, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import {
  type Arrival,
  type ArrivedFrame,
  frameLineReader,
  nothingArrived,
  takeFrame,
  watchReader,
  type ArrivedPicture,
} from '@green-mantle/core/arrival'
import { makeWorkFolder } from '../files/workFolders'
import { ask } from '../measuring/encoderProgram'
import { runProgram, type RunningProgram } from '../programs/runProgram'
import { systemPrograms } from '../programs/systemPrograms'
import { watchingFilters } from './watching'
import { ownInput } from '../programs/fileInput'

const longestSeconds = 24 * 3600
/** Frames of which the head of the stream is kept, to be asked for its profile and level. */
const headFrames = 40
/** Kept of the picture where that is wanted: from the first keyframe after a send has got going, for so long. */
const keptFromSeconds = 4
const keptSeconds = 2
/** A send of 60 Mb/s for as long as is kept. */
const maxKeptBytes = 16_000_000
const nothingKept: Buffer = Buffer.alloc(0)

export interface StreamReaderOptions {
  clock: () => number
  /** Whether what arrives is decoded, to see a picture that stands still and hear silence. */
  watches?: (() => boolean) | undefined
  /** The frame rate of a send of whose picture a stretch is to be kept; null where none is wanted. */
  keeps?: (() => number | null) | undefined
  /** What is known of the sound that the program is not told; null where nothing is. */
  sound?: () => { beginsLaterSeconds: number; channels: number } | null
  /** Told when the first frame of a send is there, and when it is gone. */
  began: (arrival: Arrival) => void
  ended: () => void
}

/** One stream after the other, read by the program that decodes. */
export interface StreamReader {
  /** Of the send that is coming, or came last. */
  arrival(): Arrival
  isArriving(): boolean
  /** The stretch of its picture that was kept, as a file that can be decoded; empty where none was. */
  stretch(): Promise<Buffer>
  /** What came before is nobody's any more. */
  forget(): void
  /**
   * Reads one stream until it ends, whose arguments are made once there is a folder for it; `started`
   * is told when the program was. Nothing is read where that folder came too late.
   */
  read(argumentsOf: (folder: string) => Promise<string[]>, started: () => void): Promise<void>
  hangUp(): void
  /** Ends what comes in, and reads nothing any more. */
  stop(): Promise<void>
}

interface Paths {
  attached: string
  head: string
  stretch: string
}

/**
 * Picture and sound are listed apart: put in order by their times in one list, late sound would hold the
 * picture back and seem in time. A list of what a send does not have is kept up by an attachment.
 */
const listed = (kind: 'v' | 'a', attached: string, pipe: number): string[] => [
  ...['-map', `0:${kind}?`, kind === 'v' ? '-an' : '-vn', '-attach', attached],
  ...['-c', 'copy', '-f', 'framecrc', `pipe:${pipe}`],
]

const outputArguments = (
  { attached, head, stretch }: Paths,
  { watches, keptFramesPerSecond }: { watches: boolean; keptFramesPerSecond: number | null },
): string[] => [
  ...listed('v', attached, 1),
  ...listed('a', attached, 3),
  ...(watches
    ? [
        ...['-map', '0:v?', '-map', '0:a?', '-vf', watchingFilters.picture],
        ...['-af', watchingFilters.sound, '-f', 'null', '-'],
      ]
    : []),
  ...['-map', '0:v', '-frames:v', `${headFrames}`, '-c', 'copy', '-flush_packets', '1'],
  ...['-f', 'mpegts', head],
  ...(keptFramesPerSecond === null
    ? []
    : [
        ...['-map', '0:v', '-ss', `${keptFromSeconds}`],
        ...['-frames:v', `${Math.ceil(keptSeconds * keptFramesPerSecond)}`, '-c', 'copy'],
        ...['-fs', `${maxKeptBytes}`, '-flush_packets', '1', '-f', 'mpegts', stretch],
      ]),
]

/** What stands in a file, if it is there and no larger than what is kept. */
async function keptIn(path: string): Promise<Buffer> {
  try {
    return (await stat(path)).size > maxKeptBytes * 1.1 ? nothingKept : await readFile(path)
  } catch {
    return nothingKept
  }
}

/** Profile and level out of the head of a stream; what cannot be read stays unknown. */
async function askHead(
  path: string,
): Promise<Pick<ArrivedPicture, 'profile' | 'level' | 'isInterlaced'>> {
  const { output } = await ask('ffprobe', [
    ...['-v', 'quiet', '-select_streams', 'v:0', '-of', 'json'],
    ...['-show_entries', 'stream=codec_name,profile,level,field_order', ...ownInput(path)],
  ])
  try {
    const [stream] = (JSON.parse(output) as { streams: Record<string, string | number>[] }).streams
    const level = Number(stream?.level)
    const tenths = stream?.codec_name === 'hevc' ? level / 3 : level
    return {
      profile: typeof stream?.profile === 'string' ? stream.profile : null,
      level: tenths > 0 ? `${Math.round(tenths) / 10}` : null,
      ...(typeof stream?.field_order === 'string' && {
        isInterlaced: /^[tb]{2}$/.test(stream.field_order),
      }),
    }
  } catch {
    return { profile: null, level: null }
  }
}

const laterBy = (frame: ArrivedFrame, seconds: number): ArrivedFrame =>
  frame.kind === 'video'
    ? frame
    : {
        ...frame,
        decodeSeconds: frame.decodeSeconds + seconds,
        presentSeconds: frame.presentSeconds + seconds,
      }

/** Reads what comes in with the program that decodes; a port at which nobody calls takes no process. */
export function streamReader(options: StreamReaderOptions): StreamReader {
  const { clock } = options
  let current = nothingArrived()
  let program: RunningProgram | undefined
  let isStopped = false
  /** Of the send that came last, and where that of one that is coming is being written. */
  let lastStretch: Buffer = nothingKept
  let stretchPath: string | undefined

  function start(input: readonly string[], paths: Paths): RunningProgram {
    const lists = { video: frameLineReader(), audio: frameLineReader() }
    const arrival = nothingArrived()
    const watch = watchReader(arrival.watched)
    let isHeadAsked = false
    current = arrival
    function take(kind: keyof typeof lists, piece: string): void {
      const isFirst = arrival.frames.length === 0
      const told = options.sound?.() ?? null
      for (const frame of lists[kind].read(piece, clock()))
        takeFrame(arrival, told ? laterBy(frame, told.beginsLaterSeconds) : frame)
      arrival.picture ??= lists.video.picture()
      arrival.sound ??= lists.audio.sound()
      if (arrival.sound && told) arrival.sound.channels = told.channels
      if (isFirst && arrival.frames.length > 0) options.began(arrival)
      if (isHeadAsked || arrival.videoFrames <= headFrames) return
      isHeadAsked = true
      void askHead(paths.head).then((head) => {
        if (arrival.picture) Object.assign(arrival.picture, head)
      })
    }
    const running = runProgram(
      systemPrograms.encoder,
      'ffmpeg',
      [
        ...['-hide_banner', '-nostdin', '-nostats', '-loglevel', 'info', '-y'],
        ...['-fflags', 'nobuffer', '-analyzeduration', '1000000', '-copyts', ...input],
        ...outputArguments(paths, {
          watches: options.watches?.() ?? true,
          keptFramesPerSecond: options.keeps?.() ?? null,
        }),
      ],
      {
        timeLimitSeconds: longestSeconds,
        onError: watch,
        onOutput: (chunk) => take('video', chunk.toString('utf8')),
        onProgress: (piece) => take('audio', piece),
      },
    )
    void running.ended.then(() => {
      if (arrival.frames.length > 0) options.ended()
    })
    return running
  }

  return {
    arrival: () => current,
    isArriving() {
      const last = current.frames.at(-1)
      return program !== undefined && last !== undefined && clock() - last.atSeconds < 3
    },
    async stretch() {
      const now = stretchPath ? await keptIn(stretchPath) : nothingKept
      return now.length > 0 ? now : lastStretch
    },
    forget() {
      current = nothingArrived()
      lastStretch = nothingKept
    },
    async read(argumentsOf, started) {
      if (isStopped) return
      const folder = await makeWorkFolder('head')
      const paths = {
        attached: join(folder, 'attached'),
        head: join(folder, 'head.ts'),
        stretch: join(folder, 'stretch.ts'),
      }
      try {
        await writeFile(paths.attached, ' ')
        const input = await argumentsOf(folder)
        // Stopped meanwhile: what begins now nobody would end.
        if (isStopped) return
        lastStretch = nothingKept
        stretchPath = paths.stretch
        program = start(input, paths)
        started()
        await program.ended
        lastStretch = await keptIn(paths.stretch)
      } finally {
        program = undefined
        stretchPath = undefined
        await rm(folder, { recursive: true, force: true })
      }
    },
    hangUp: () => void program?.stop(),
    async stop() {
      isStopped = true
      await program?.kill()
    },
  }
}
