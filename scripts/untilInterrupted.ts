import { untilUnguarded } from './guarded'
import { processFacts, startersOf } from './processes'

const lookMilliseconds = 300

/**
 * Resolves at Ctrl-C or when asked to end, and where one of those who started this is gone or its
 * guardian is; a second Ctrl-C while things are being stopped does nothing.
 */
export function untilInterrupted(): Promise<void> {
  const starters = startersOf(process.pid)
  return new Promise((resolve) => {
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
      process.on(signal, () => resolve())
    const looking = setInterval(() => {
      const isGone = starters.some(
        ({ pid, startedAt }) => processFacts(pid)?.startedAt !== startedAt,
      )
      if (isGone) resolve()
    }, lookMilliseconds)
    looking.unref()
    void untilUnguarded().then(resolve)
  })
}
