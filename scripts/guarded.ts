import { type ChildProcess, spawn, type SpawnOptions } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { guardedMarkName } from '../server/programs/guardedMark'
import { root } from './paths'

/**
 * In the environment of all that is guarded, so that the guardian finds it too where this process was
 * killed between starting it and saying so.
 */
const mark = randomUUID()
let guardian: ChildProcess | undefined
const whenUnguarded: (() => void)[] = []

function useGuardian(): ChildProcess {
  if (guardian) return guardian
  const started = spawn(
    process.execPath,
    [`${root}/scripts/guardian.mjs`, `${guardedMarkName}=${mark}`],
    {
      stdio: ['pipe', 'ignore', 'ignore'],
      detached: true,
      // Where this process is guarded itself, its guardian is not to be ended before it has done its work.
      env: { ...process.env, [guardedMarkName]: undefined },
    },
  )
  // It is no reason to go on, and its end is none to break off in the middle of a write to it.
  started.unref()
  ;(started.stdin as unknown as { unref(): void }).unref()
  started.stdin?.on('error', () => {})
  started.once('exit', () => {
    guardian = undefined
    for (const tell of whenUnguarded) tell()
  })
  guardian = started
  return started
}

/**
 * Starts a program in a group of its own that ends with this process, however that ends: a guardian
 * sees to it. What runs on after it was stopped here is not its business any more.
 */
export function spawnGuarded(
  program: string,
  args: readonly string[],
  options: SpawnOptions,
): ChildProcess {
  const { stdin } = useGuardian()
  const env = { ...(options.env ?? process.env), [guardedMarkName]: mark }
  const child = spawn(program, args, { ...options, env, detached: true })
  const { pid } = child
  if (pid !== undefined) {
    stdin?.write(`watch ${pid}\n`)
    child.once('exit', () => stdin?.write(`forget ${pid}\n`))
  }
  return child
}

/** Resolves where the guardian itself is gone: then nobody would end what runs here. */
export const untilUnguarded = (): Promise<void> =>
  new Promise((resolve) => whenUnguarded.push(resolve))
