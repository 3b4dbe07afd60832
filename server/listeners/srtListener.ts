import { readFile, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import {
  type Arrival,
  frameLineReader,
  nothingArrived,
  takeFrame,
  watchReader,
} from '@green-mantle/core/arrival'
import { makeWorkFolder } from '../files/workFolders'
import { ask } from '../measuring/encoderProgram'
import { runProgram, type RunningProgram } from '../programs/runProgram'
import { systemPrograms } from '../programs/systemPrograms'
import { freeListenerPort } from './ports'
import { nothingCrossed, openSrtFront, type SrtFront } from './srtFront'
import { watchingFilters } from './watching'

const longestSeconds = 24 * 3600
/** Frames of which the head of the stream is kept, to be asked for its profile and level. */
const headFrames = 40
/** Kept of the picture where that is wanted: from the first keyframe after a send has got going, for so long. */
const keptFromSeconds = 4
const keptSeconds = 2
/** A send of 60 Mb/s for as long as is kept. */
const maxKeptBytes = 16_000_000
const nothingKept: Buffer = Buffer.alloc(0)

export interface SrtListenerOptions {
  host: string
  /** Callers knock at the first port that nobody has from here on. */
  firstPort: number
  clock: () => number
  /** Why a caller with this stream ID is not taken; null where it is. */
  refusal: (streamId: string) => string | null
  /** Whether what arrives is decoded, to see a picture that stands still and hear silence. */
  watches?: () => boolean
  /** The frame rate of a send of whose picture a stretch is to be kept; null where none is wanted. */
  keeps?: () => number | null
  /** Whether a datagram gets through, and when; without it all do, at once. */
  pass?: (bytes: number) => Promise<boolean>
  /** Told when the first of its frames is there, and when it is gone. */
  began?: (arrival: Arrival, streamId: string) => void
  ended?: () => void
}

export interface SrtListener extends Pick<SrtFront, 'crossed' | 'openAt' | 'closeElsewhere'> {
  readonly port: number
  arrival(): Arrival
  /** Whether a sender is connected. */
  isArriving(): boolean
  /** The stretch of its picture that was kept, as a file that can be decoded; empty where none was. */
  stretch(): Promise<Buffer>
  /** What came before is nobody's any more. */
  forget(): void
  /** Ends what comes in now; another may follow. */
  hangUp(): void
  stop(): Promise<void>
}

interface Paths {
  head: string
  stretch: string
}
const argumentsFor = (
  address: string,
  { head, stretch }: Paths,
  { watches, keptFramesPerSecond }: { watches: boolean; keptFramesPerSecond: number | null },
): string[] => [
  ...['-hide_banner', '-nostdin', '-nostats', '-loglevel', 'info', '-y'],
  ...['-fflags', 'nobuffer', '-analyzeduration', '1000000', '-copyts', '-i', address],
  ...['-map', '0:v?', '-map', '0:a?', '-c', 'copy', '-f', 'framecrc', 'pipe:1'],
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
async function askHead(path: string): Promise<{ profile: string | null; level: string | null }> {
  const { output } = await ask('ffprobe', [
    ...['-v', 'quiet', '-select_streams', 'v:0', '-of', 'json'],
    ...['-show_entries', 'stream=codec_name,profile,level', path],
  ])
  try {
    const [stream] = (JSON.parse(output) as { streams: Record<string, string | number>[] }).streams
    const level = Number(stream?.level)
    const tenths = stream?.codec_name === 'hevc' ? level / 3 : level
    return {
      profile: typeof stream?.profile === 'string' ? stream.profile : null,
      level: tenths > 0 ? `${Math.round(tenths) / 10}` : null,
    }
  } catch {
    return { profile: null, level: null }
  }
}

/**
 * The ports behind the fronts, known to nobody but the program that listens there; another server of
 * this computer looks elsewhere first.
 */
const firstInnerPort = 21_400 + (process.pid % 50) * 40
const innerPorts = new Set<number>()
let lastReserved: Promise<unknown> = Promise.resolve()

/** One after the other: SRT lets two programs bind one port, and hears neither of them right. */
function reserveInnerPort(): Promise<number> {
  const reserved = lastReserved.then(async () => {
    const port = await freeListenerPort(firstInnerPort, 'udp', innerPorts)
    innerPorts.add(port)
    return port
  })
  lastReserved = reserved.catch(() => {})
  return reserved
}

/**
 * Listens for one send over SRT, and again after each that ended, until it is stopped. The program that
 * speaks SRT is started when somebody calls: a port at which nobody knocks takes no process.
 */
export async function listenSrt(options: SrtListenerOptions): Promise<SrtListener> {
  const { host, clock } = options
  let current = nothingArrived()
  let program: RunningProgram | undefined
  let isStopped = false
  /** Of the send that came last, and where that of one that is coming is being written. */
  let lastStretch: Buffer = nothingKept
  let stretchPath: string | undefined
  /** What had crossed before the first frame that is known of: the program looks at the stream for a second. */
  let before = nothingCrossed
  const front = await openSrtFront({
    ...{ host, firstPort: options.firstPort, pass: options.pass },
    refusal: (streamId) => {
      if (isArriving()) return 'another program sends here already'
      return streamId === null ? null : options.refusal(streamId)
    },
  })
  const isArriving = (): boolean => {
    const last = current.frames.at(-1)
    return program !== undefined && last !== undefined && clock() - last.atSeconds < 3
  }

  async function once(): Promise<void> {
    await front.called()
    if (isStopped) return
    const folder = await makeWorkFolder('head')
    const paths = { head: join(folder, 'head.ts'), stretch: join(folder, 'stretch.ts') }
    const port = await reserveInnerPort()
    try {
      // Stopped while the folder was made: what begins now nobody would end.
      if (isStopped) return
      lastStretch = nothingKept
      stretchPath = paths.stretch
      program = listenTo(port, paths)
      front.leadTo(port)
      await program.ended
      lastStretch = await keptIn(paths.stretch)
    } finally {
      program = undefined
      stretchPath = undefined
      front.leadTo(null)
      innerPorts.delete(port)
      await rm(folder, { recursive: true, force: true })
    }
  }

  function listenTo(port: number, paths: Paths): RunningProgram {
    const lines = frameLineReader()
    let arrival: Arrival | undefined
    let isHeadAsked = false
    let watch: (piece: string) => void = () => {}
    const address = `srt://${host}:${port}?mode=listener`
    const running = runProgram(
      systemPrograms.encoder,
      'ffmpeg',
      argumentsFor(address, paths, {
        watches: options.watches?.() ?? true,
        keptFramesPerSecond: options.keeps?.() ?? null,
      }),
      {
        timeLimitSeconds: longestSeconds,
        onError: (piece) => watch(piece),
        onOutput: (chunk) => {
          if (!arrival) {
            arrival = nothingArrived()
            current = arrival
            before = nothingCrossed
            watch = watchReader(arrival.watched)
          }
          const isFirst = arrival.frames.length === 0
          for (const frame of lines.read(chunk.toString('utf8'), clock())) takeFrame(arrival, frame)
          arrival.picture ??= lines.picture()
          arrival.sound ??= lines.sound()
          if (isFirst && arrival.frames.length > 0) {
            before = front.crossed()
            options.began?.(arrival, front.streamId())
          }
          if (isHeadAsked || arrival.videoFrames <= headFrames) return
          isHeadAsked = true
          const into = arrival
          void askHead(paths.head).then((head) => {
            if (into.picture) Object.assign(into.picture, head)
          })
        },
      },
    )
    void running.ended.then(() => {
      if (arrival && arrival.frames.length > 0) options.ended?.()
    })
    return running
  }
  /** A program that cannot listen (the port is taken) is not started over and over. */
  async function again(): Promise<void> {
    while (!isStopped) {
      const started = clock()
      await once()
      if (!isStopped && clock() - started < 1)
        await new Promise((resolve) => setTimeout(resolve, 1000))
    }
  }
  const going = again().catch((error: unknown) => {
    console.error('Listening over SRT ended:', (error as Error).message)
  })
  return {
    port: front.port,
    arrival: () => current,
    isArriving,
    crossed() {
      const now = front.crossed()
      return {
        wireBytes: now.wireBytes - before.wireBytes,
        datagrams: now.datagrams - before.datagrams,
        lostDatagrams: now.lostDatagrams - before.lostDatagrams,
      }
    },
    openAt: front.openAt,
    closeElsewhere: front.closeElsewhere,
    async stretch() {
      const now = stretchPath ? await keptIn(stretchPath) : nothingKept
      return now.length > 0 ? now : lastStretch
    },
    forget() {
      current = nothingArrived()
      lastStretch = nothingKept
    },
    hangUp: () => void program?.stop(),
    async stop() {
      isStopped = true
      front.close()
      await program?.kill()
      await going
    },
  }
}
