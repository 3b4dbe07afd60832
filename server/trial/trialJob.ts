import type { TrialResult } from '@green-mantle/core/trial'
import { runTrial, type TrialOptions } from './runTrial'

/** The trial that is under way or was last; there is one at a time, since two would slow each other down. */
interface Job {
  showId: string
  stopper: AbortController
  stage: string
  beganAt: number
  seconds: number
  problem: string | null
  ended: Promise<void>
}

let job: Job | undefined
let isGoing = false

export interface TrialState {
  going: boolean
  stage: string
  /** Since sending began, at most `seconds`. */
  elapsedSeconds: number
  seconds: number
  problem: string | null
}

/** How far the trial of a show is; null where none was begun since the start. */
export function trialState(showId: string): TrialState | null {
  if (job?.showId !== showId) return null
  const { stage, beganAt, seconds, problem } = job
  return {
    going: isGoing,
    stage,
    elapsedSeconds: beganAt === 0 ? 0 : Math.min(seconds, (performance.now() - beganAt) / 1000),
    seconds,
    problem,
  }
}

interface BeginOptions extends Omit<TrialOptions, 'signal' | 'report'> {
  keep: (result: TrialResult) => Promise<void>
}

/** Begins a trial; false where one is under way. */
export function beginTrial({ keep, ...options }: BeginOptions): boolean {
  if (isGoing) return false
  isGoing = true
  const made: Job = {
    showId: options.showId,
    stopper: new AbortController(),
    stage: 'Beginning',
    beganAt: 0,
    seconds: options.seconds,
    problem: null,
    ended: Promise.resolve(),
  }
  job = made
  made.ended = runTrial({
    ...options,
    signal: made.stopper.signal,
    report: (stage) => {
      made.stage = stage
      if (stage === 'Sending') made.beganAt = performance.now()
    },
  })
    .then(keep)
    .catch((error: unknown) => {
      made.problem = (error as Error).message
    })
    .finally(() => {
      isGoing = false
    })
  return true
}

/** Stops it; what arrived by then is kept. Resolves when nothing of it runs any more. */
export async function stopTrial(showId: string): Promise<void> {
  if (job?.showId !== showId) return
  job.stopper.abort()
  await job.ended
}
