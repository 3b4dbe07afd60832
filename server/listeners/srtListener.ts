import { rm } from 'node:fs/promises'
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
import { watchingFilters } from './watching'

const longestSeconds = 24 * 3600
/** Frames of which the head of the stream is kept, to be asked for its profile and level. */
const headFrames = 40

export interface SrtListener {
  arrival(): Arrival
  /** Whether a sender is connected. */
  isArriving(): boolean
  /** What came before is nobody's any more. */
  forget(): void
  stop(): Promise<void>
}

const argumentsFor = (host: string, port: number, headPath: string): string[] => [
  ...['-hide_banner', '-nostdin', '-nostats', '-loglevel', 'info', '-y'],
  ...['-fflags', 'nobuffer', '-analyzeduration', '1000000', '-copyts'],
  ...['-i', `srt://${host}:${port}?mode=listener`],
  ...['-map', '0:v?', '-map', '0:a?', '-c', 'copy', '-f', 'framecrc', 'pipe:1'],
  ...['-map', '0:v?', '-map', '0:a?', '-vf', watchingFilters.picture],
  ...['-af', watchingFilters.sound, '-f', 'null', '-'],
  ...['-map', '0:v', '-frames:v', `${headFrames}`, '-c', 'copy', '-flush_packets', '1'],
  ...['-f', 'mpegts', headPath],
]

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

/** Listens for one send over SRT, and again after each that ended, until it is stopped. */
export function listenSrt(host: string, port: number, clock: () => number): SrtListener {
  let current = nothingArrived()
  let program: RunningProgram | undefined
  let isStopped = false

  async function once(): Promise<void> {
    const folder = await makeWorkFolder('head')
    try {
      // Stopped while the folder was made: what begins now nobody would end.
      if (isStopped) return
      program = listenTo(join(folder, 'head.ts'))
      await program.ended
    } finally {
      program = undefined
      await rm(folder, { recursive: true, force: true })
    }
  }

  function listenTo(headPath: string): RunningProgram {
    const lines = frameLineReader()
    let arrival: Arrival | undefined
    let isHeadAsked = false
    let watch: (piece: string) => void = () => {}
    return runProgram(systemPrograms.encoder, 'ffmpeg', argumentsFor(host, port, headPath), {
      timeLimitSeconds: longestSeconds,
      onError: (piece) => watch(piece),
      onOutput: (chunk) => {
        if (!arrival) {
          arrival = nothingArrived()
          current = arrival
          watch = watchReader(arrival.watched)
        }
        for (const frame of lines.read(chunk.toString('utf8'), clock())) takeFrame(arrival, frame)
        arrival.picture ??= lines.picture()
        arrival.sound ??= lines.sound()
        if (isHeadAsked || arrival.videoFrames <= headFrames) return
        isHeadAsked = true
        const into = arrival
        void askHead(headPath).then((head) => {
          if (into.picture) Object.assign(into.picture, head)
        })
      },
    })
  }
  /** A program that cannot listen (the port is taken) is not started over and over. */
  async function again(): Promise<void> {
    while (!isStopped) {
      const started = clock()
      await once()
      if (clock() - started < 1) await new Promise((resolve) => setTimeout(resolve, 1000))
    }
  }
  const going = again().catch((error: unknown) => {
    console.error('Listening over SRT ended:', (error as Error).message)
  })
  return {
    arrival: () => current,
    isArriving: () => {
      const last = current.frames.at(-1)
      return last !== undefined && clock() - last.atSeconds < 3
    },
    forget: () => (current = nothingArrived()),
    async stop() {
      isStopped = true
      await program?.kill()
      await going
    },
  }
}
