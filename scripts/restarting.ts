import type { ChildProcess } from 'node:child_process'

/** So many ends by itself within a minute are too many. */
const limits = { ends: 3, withinMilliseconds: 60_000 } as const

const ending = (child: ChildProcess): Promise<string> =>
  new Promise((resolve) => {
    const words = (): string => child.signalCode ?? `code ${child.exitCode}`
    if (child.exitCode !== null || child.signalCode !== null) return resolve(words())
    child.once('exit', () => resolve(words()))
  })

/**
 * Keeps a program running: where it ends by itself that is said and it is started again, until
 * `isOver`; where that happens too often it throws.
 */
export async function keptRunning<Running extends { process: ChildProcess }>(
  first: Running,
  { name, again }: { name: string; again: () => Promise<Running> },
  isOver: () => boolean,
  tell: (running: Running) => void = () => {},
): Promise<void> {
  let running = first
  const ends: number[] = []
  for (;;) {
    const how = await ending(running.process)
    if (isOver()) return
    const now = Date.now()
    ends.push(now)
    if (ends.filter((at) => now - at < limits.withinMilliseconds).length > limits.ends)
      throw new Error(`${name} ended by itself ${limits.ends + 1} times within a minute (${how}).`)
    console.error(`${name} ended by itself (${how}); it is started again.`)
    running = await again()
    tell(running)
  }
}
