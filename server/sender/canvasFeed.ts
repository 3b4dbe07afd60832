import { setTimeout as pause } from 'node:timers/promises'
import {
  canvasArguments,
  type CanvasEncodes,
  type EncodedOutput,
  escapedForList,
  passedOnArguments,
} from '@green-mantle/core/encoding'
import { type EncodingProgress, progressReader } from '@green-mantle/core/measured'
import { lastWords } from '../measuring/encoderProgram'
import { processorShareOf } from '../measuring/processorTime'
import { runProgram, type RunningProgram } from '../programs/runProgram'
import { systemPrograms } from '../programs/systemPrograms'
import { ownInput } from '../programs/fileInput'

const longestSeconds = 7 * 24 * 3600
const restartMilliseconds = 1000
/** An encoder whose input has ended closes its files so soon. */
const closesWithinMilliseconds = 3000
/** The speed is told over these last seconds. */
const speedWindowSeconds = 5

/** What comes in names its form; of the on-air window's it is known at once. */
const liveForms = {
  flv: ['-f', 'flv'],
  matroska: [
    ...['-probesize', '400000', '-analyzeduration', '200000', '-f', 'matroska'],
    ...['-protocol_whitelist', 'pipe', '-format_whitelist', 'matroska'],
  ],
} as const

export interface CanvasFeedOptions {
  canvas: CanvasEncodes
  /** A file that is looped; null where the picture comes in through `input`. */
  clip: string | null
  /** In what form it comes in there. */
  inputForm?: 'flv' | 'matroska'
  /** Whether its picture is encoded already, and passed on as it comes. */
  isPassedOn?: boolean
  addressOf: (output: EncodedOutput, attempt: number) => string
  /** The encoder ended although nobody asked; it is started again. */
  onRestart: (words: string) => void
}

/** Every encode of one canvas: one process, started again where it ends by itself. */
export class CanvasFeed {
  private program: RunningProgram | null = null
  private reports: (EncodingProgress & { at: number })[] = []
  private retry: ReturnType<typeof setTimeout> | undefined
  private startedAt = 0
  private processorShare: () => number | null = () => null
  private isWanted = false
  private attempt = 0

  constructor(private readonly options: CanvasFeedOptions) {}

  get isRunning(): boolean {
    return this.program !== null
  }
  get restarts(): number {
    return Math.max(0, this.attempt - 1)
  }
  /** Its standard input, where the picture comes in by itself. */
  get input(): RunningProgram['input'] {
    return this.program?.input ?? null
  }

  start(): void {
    this.isWanted = true
    this.run()
  }

  /** Ends the process and begins another, with outputs of its own. */
  async beginAnew(): Promise<void> {
    await this.program?.stop()
  }

  async stop(): Promise<void> {
    this.isWanted = false
    clearTimeout(this.retry)
    const { program } = this
    // What comes in ends first, and it is asked before it is made to, so that a recording is closed as it should be.
    if (program?.input) {
      program.input.end()
      await Promise.race([program.ended, pause(closesWithinMilliseconds)])
    }
    await program?.stop()
  }

  /** How fast it goes against real time lately; null before that is known. */
  speed(): number | null {
    const last = this.reports.at(-1)
    const first = this.reports.find(({ at }) => last && at > last.at - speedWindowSeconds * 1000)
    if (!first || !last || last.at - first.at < 1000) return null
    const speed = (last.outSeconds - first.outSeconds) / ((last.at - first.at) / 1000)
    return Math.round(speed * 100) / 100
  }

  /** What the process that runs now has taken since it began; null where none runs. */
  taken(): { seconds: number; speed: number | null; processorShare: number | null } | null {
    if (!this.program) return null
    return {
      seconds: (performance.now() - this.startedAt) / 1000,
      speed: this.speed(),
      processorShare: this.processorShare(),
    }
  }

  private run(): void {
    const { canvas, clip, addressOf, isPassedOn } = this.options
    const attempt = this.attempt
    this.attempt += 1
    const looped = clip === null ? null : ownInput(clip, '-re', '-stream_loop', '-1')
    const live = [
      '-fflags',
      'nobuffer',
      ...liveForms[this.options.inputForm ?? 'flv'],
      '-i',
      'pipe:0',
    ]
    const read = progressReader()
    this.reports = []
    const program = runProgram(
      systemPrograms.encoder,
      'ffmpeg',
      [
        ...['-hide_banner', '-nostdin', '-y', '-loglevel', 'error', '-nostats'],
        ...['-stats_period', '0.5', '-progress', 'pipe:3'],
        ...(isPassedOn ? passedOnArguments : canvasArguments)(canvas, {
          input: looped ?? live,
          archiveMix: looped ?? [],
          goesOnUnrecorded: true,
          addressOf: (output) => escapedForList(addressOf(output, attempt)),
        }),
      ],
      {
        timeLimitSeconds: longestSeconds,
        hasInput: clip === null,
        onProgress: (piece) => {
          const at = performance.now()
          this.reports.push(...read(piece).map((report) => ({ ...report, at })))
          this.reports = this.reports.slice(-60)
        },
      },
    )
    this.program = program
    this.startedAt = performance.now()
    this.processorShare = processorShareOf(program.pid)
    void program.ended.then(({ errors }) => {
      if (this.program === program) this.program = null
      // A program that draws the canvas ends when it likes, and its encoder with it.
      const isExpected = clip === null && this.options.inputForm !== 'matroska'
      if (!this.isWanted || isExpected) return
      this.options.onRestart(lastWords(errors).slice(0, 200))
      // What the window draws begins it anew, at a keyframe.
      if (clip === null) return
      this.retry = setTimeout(() => this.isWanted && this.run(), restartMilliseconds)
    })
  }
}
