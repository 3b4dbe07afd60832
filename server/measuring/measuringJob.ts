import type { MeasuringPass } from '@green-mantle/core/measured'
import type { Computer } from '@green-mantle/core/show'
import { measureComputer, type MeasuringReport } from './measureComputer'

/** The measuring that is under way or was last; there is one at a time, since two would measure each other. */
interface Job {
  stopper: AbortController
  report: MeasuringReport | null
  problem: string | null
  ended: Promise<void>
}

let job: Job | undefined
let isGoing = false

export interface MeasuringState {
  going: boolean
  report: MeasuringReport | null
  /** Why the last one ended early, in words. */
  problem: string | null
}

export const measuringState = (): MeasuringState => ({
  going: isGoing,
  report: job?.report ?? null,
  problem: job?.problem ?? null,
})

interface BeginOptions {
  pass: MeasuringPass
  installation: string
  recordingFolder: string
  /** Keeps what was measured, all of it or as far as it got. */
  keep: (computer: Computer) => Promise<void>
}

/** Begins to measure; false where it is being done already. */
export function beginMeasuring({ keep, ...options }: BeginOptions): boolean {
  if (isGoing) return false
  isGoing = true
  const stopper = new AbortController()
  const made: Job = { stopper, report: null, problem: null, ended: Promise.resolve() }
  job = made
  made.ended = measureComputer({
    ...options,
    signal: stopper.signal,
    report: (report) => (made.report = report),
  })
    .then(async (computer) => {
      if (computer.devices.length > 0) await keep(computer)
      else made.problem = 'It was stopped before anything was known.'
    })
    .catch((error: unknown) => {
      made.problem = (error as Error).message
    })
    .finally(() => {
      isGoing = false
    })
  return true
}

/** Stops it; what is known by then is kept. Resolves when nothing of it runs any more. */
export async function stopMeasuring(): Promise<void> {
  job?.stopper.abort()
  await job?.ended
}
