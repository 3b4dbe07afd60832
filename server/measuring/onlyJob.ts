/** What is told of measuring that is under way or was last. */
export interface JobState<Report> {
  going: boolean
  report: Report | null
  /** Why the last one ended early, in words. */
  problem: string | null
}

interface Work<Report> {
  signal: AbortSignal
  report: (report: Report) => void
}

/** Who measures now: there is one at a time of all kinds, since two would measure each other. */
let busy: object | null = null

/** Measuring of one kind that goes on by itself, is told of while it does, and can be stopped. */
export function onlyJob<Report>() {
  const state: JobState<Report> = { going: false, report: null, problem: null }
  let stopper = new AbortController()
  let ended = Promise.resolve()
  return {
    state: (): JobState<Report> => ({ ...state }),
    /** Begins; false where something is being measured already. */
    begin(work: (work: Work<Report>) => Promise<void>): boolean {
      if (busy) return false
      busy = state
      stopper = new AbortController()
      Object.assign(state, { going: true, report: null, problem: null })
      ended = work({ signal: stopper.signal, report: (report) => (state.report = report) })
        .catch((error: unknown) => {
          state.problem = (error as Error).message
        })
        .finally(() => {
          state.going = false
          busy = null
        })
      return true
    },
    /** Stops it; resolves when nothing of it runs any more. */
    async stop(): Promise<void> {
      stopper.abort()
      await ended
    },
  }
}
