import { availableParallelism } from 'node:os'
import { performance } from 'node:perf_hooks'
import { type EncodingProgress, progressReader, rateBetween } from '@green-mantle/core/measured'
import { runProgram } from '../programs/runProgram'
import { systemPrograms } from '../programs/systemPrograms'
import { processorSeconds } from './processorTime'

/** How fast one process went; null where it did not get going. */
export interface RunResult {
  framesPerSecond: number | null
  /** Frames in each second that it would make if it had the whole processor, from the time of it that it took. */
  framesPerProcessorSecond: number | null
  /** Whether it opened at all. */
  opened: boolean
  errors: string
}

/** Waiting for the first frame takes this long at most; what is slower is of no use live. */
const maxWaitSeconds = 9

/**
 * Runs some processes at once, each as fast as it can, and gives the frames a second of each while all
 * of them were going. Ended early by `signal`.
 */
export async function runTogether(
  processes: readonly (readonly string[])[],
  seconds: number,
  signal: AbortSignal,
): Promise<RunResult[]> {
  return Promise.all(processes.map((args) => runOne(args, seconds, signal)))
}

async function runOne(
  args: readonly string[],
  seconds: number,
  signal: AbortSignal,
): Promise<RunResult> {
  const read = progressReader()
  let isOver = false
  let takenBefore: Promise<number | null> | undefined
  let takenAfter: Promise<number | null> | undefined
  const reports: (EncodingProgress & { atSeconds: number })[] = []
  const running = runProgram(
    systemPrograms.encoder,
    'ffmpeg',
    [
      ...['-hide_banner', '-nostdin', '-loglevel', 'error'],
      ...['-stats_period', '0.1', '-progress', 'pipe:3'],
      ...args,
    ],
    {
      timeLimitSeconds: maxWaitSeconds + seconds,
      onProgress: (piece) => {
        const atSeconds = performance.now() / 1000
        for (const report of read(piece))
          if (report.frames > 0 && !isOver) reports.push({ ...report, atSeconds })
        const first = reports[0]
        if (!first || isOver) return
        takenBefore ??= processorSeconds(running.pid)
        if (atSeconds - first.atSeconds < seconds) return
        // What it still had in hand would come in one go.
        isOver = true
        takenAfter = processorSeconds(running.pid).finally(() => void running.kill())
      },
    },
  )
  const stop = (): void => void running.kill()
  signal.addEventListener('abort', stop)
  if (signal.aborted) stop()
  const { code, stopped, errors } = await running.ended
  signal.removeEventListener('abort', stop)
  const [before, after] = [await takenBefore, await takenAfter]
  const frames = (reports.at(-1)?.frames ?? 0) - (reports[0]?.frames ?? 0)
  const taken = (after ?? 0) - (before ?? 0)
  return {
    framesPerSecond: rateBetween(reports),
    framesPerProcessorSecond:
      taken > 0 && frames > 0 ? frames / (taken / availableParallelism()) : null,
    opened: reports.length > 0 || code === 0 || stopped !== null,
    errors,
  }
}
