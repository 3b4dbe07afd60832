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
  /** The share of the whole processor that it took meanwhile. */
  processorShare: number | null
  /** Whether it opened at all. */
  opened: boolean
  errors: string
}

/** Waiting for the first frame takes this long at most; what is slower is of no use live. */
const maxWaitSeconds = 9
/** What has been looked at runs on so long at most, until the others have been too. */
const maxUnevenSeconds = 3

type Report = EncodingProgress & { atSeconds: number }

export interface RunTimes {
  /** So long each goes on before it is looked at. */
  settleSeconds: number
  /** So long it is looked at. */
  seconds: number
}

/** Of all that run at once: looked at is only while every one of them is going. */
interface Together {
  /** Whether every one has settled, or has ended. */
  areGoing: boolean
  /** One has settled, or ended before it had. */
  oneIsGoing(): void
  /** One has been looked at, or ended before it was. */
  oneIsSeen(): void
  readonly allSeen: Promise<void>
}

function together(count: number): Together {
  let [waiting, unseen] = [count, count]
  let resolveSeen: () => void = () => {}
  const allSeen = new Promise<void>((resolve) => (resolveSeen = resolve))
  const made = {
    areGoing: false,
    allSeen,
    oneIsGoing() {
      waiting -= 1
      made.areGoing = waiting === 0
    },
    oneIsSeen() {
      unseen -= 1
      if (unseen === 0) resolveSeen()
    },
  }
  return made
}

/**
 * Runs some processes at once, each as fast as it can, and gives the frames a second of each while all
 * of them were going. Ended early by `signal`.
 */
export async function runTogether(
  processes: readonly (readonly string[])[],
  times: RunTimes,
  signal: AbortSignal,
): Promise<RunResult[]> {
  const all = together(processes.length)
  return Promise.all(processes.map((args) => runOne(args, times, { all, signal })))
}

async function runOne(
  args: readonly string[],
  { settleSeconds, seconds }: RunTimes,
  { all, signal }: { all: Together; signal: AbortSignal },
): Promise<RunResult> {
  const read = progressReader()
  let goingSince: number | undefined
  let isSeen = false
  let from: { report: Report; taken: number | null } | undefined
  let to: typeof from
  let isSettled = false
  const settled = (): void => {
    if (!isSettled) all.oneIsGoing()
    isSettled = true
  }
  const seen = (): void => {
    if (!isSeen) all.oneIsSeen()
    isSeen = true
  }
  let lastFrames = 0
  // Time is read when a report comes, so that it belongs to its frames; and only when frames came with
  // it, since some encoders give a whole group at a time: from one group's end to another's is whole groups.
  function take(report: Report): void {
    const isAnother = report.frames > lastFrames
    lastFrames = report.frames
    goingSince ??= report.atSeconds
    if (report.atSeconds - goingSince >= settleSeconds) settled()
    if (!all.areGoing || to || !isAnother) return
    const now = (): typeof from => ({ report, taken: processorSeconds(running.pid) })
    from ??= now()
    if (!from || report.atSeconds - from.report.atSeconds < seconds) return
    to = now()
    seen()
  }
  const running = runProgram(
    systemPrograms.encoder,
    'ffmpeg',
    [
      ...['-hide_banner', '-nostdin', '-loglevel', 'error'],
      ...['-stats_period', '0.1', '-progress', 'pipe:3'],
      ...args,
    ],
    {
      timeLimitSeconds: maxWaitSeconds + settleSeconds + seconds + maxUnevenSeconds,
      onProgress: (piece) => {
        const atSeconds = performance.now() / 1000
        for (const report of read(piece)) if (report.frames > 0) take({ ...report, atSeconds })
      },
    },
  )
  const stop = (): void => void running.kill()
  void all.allSeen.then(stop)
  signal.addEventListener('abort', stop)
  if (signal.aborted) stop()
  const { code, stopped, errors } = await running.ended
  settled()
  seen()
  signal.removeEventListener('abort', stop)
  const frames = from && to ? to.report.frames - from.report.frames : 0
  const spanSeconds = from && to ? to.report.atSeconds - from.report.atSeconds : 0
  const taken = (to?.taken ?? 0) - (from?.taken ?? 0)
  return {
    framesPerSecond: from && to ? rateBetween([from.report, to.report]) : null,
    framesPerProcessorSecond:
      taken > 0 && frames > 0 ? frames / (taken / availableParallelism()) : null,
    processorShare: taken > 0 ? taken / spanSeconds / availableParallelism() : null,
    opened: goingSince !== undefined || code === 0 || stopped !== null,
    errors,
  }
}
