import { type ChildProcess, spawn } from 'node:child_process'
import { inheritedMark } from './guardedMark'
import { findProgram, missingProgram, type SystemProgram, systemPrograms } from './systemPrograms'

/** How a program ended. */
interface ProgramEnd {
  /** null where a signal ended it. */
  code: number | null
  /** Why it was ended from here; null where it ended by itself. */
  stopped: 'asked' | 'time is up' | 'too much output' | null
  /** The last of what it said on its error output. */
  errors: string
}

export interface RunningProgram {
  readonly pid: number | undefined
  readonly ended: Promise<ProgramEnd>
  /** Asks it to end, and makes it where it does not; resolves when it has. */
  stop(): Promise<ProgramEnd>
  /** Ends it without asking: what it has not written yet is not wanted. */
  kill(): Promise<ProgramEnd>
  /** Written to its standard input; null where it has none. */
  readonly input: ChildProcess['stdin']
}

export interface ProgramOptions {
  timeLimitSeconds: number
  /** It gives way to everything else on this computer. */
  givesWay?: boolean
  hasInput?: boolean
  onOutput?: (chunk: Buffer) => void
  /** What it writes to file descriptor 3, as FFmpeg's progress and a second list of frames are. */
  onProgress?: (chunk: string) => void
  onError?: (chunk: string) => void
  maxOutputBytes?: number
}

/** A program that has to be installed first; says which package brings it. */
export class ProgramMissing extends Error {}

const keptErrorCharacters = 4000
const graceMilliseconds = 2000

const running = new Set<RunningProgram>()

/** Ends all that was started here. */
export const stopPrograms = async (): Promise<void> => {
  await Promise.all([...running].map((program) => program.stop()))
}

function signalGroup(child: ChildProcess, name: NodeJS.Signals): void {
  try {
    if (child.pid !== undefined) process.kill(-child.pid, name)
  } catch {
    // It has ended meanwhile.
  }
}

/**
 * Starts a program of the system without a shell, in a process group of its own, for a limited time and
 * with bounded output. The kernel ends it with this process, however that ends. Throws `ProgramMissing`
 * where it is not there.
 */
export function runProgram(
  kind: SystemProgram,
  program: string,
  args: readonly string[],
  options: ProgramOptions,
): RunningProgram {
  for (const each of [kind, systemPrograms.starting, systemPrograms.givingWay]) {
    const missing = missingProgram(each)
    if (missing) throw new ProgramMissing(missing)
  }
  const [path, setpriv, nice] = [program, 'setpriv', 'nice'].map(
    (name) => findProgram(name) as string,
  ) as [string, string, string]
  const wrapped = options.givesWay ? [nice, '-n', '10', path] : [path]
  const child = spawn(setpriv, ['--pdeathsig', 'KILL', '--', ...wrapped, ...args], {
    detached: true,
    stdio: [options.hasInput ? 'pipe' : 'ignore', 'pipe', 'pipe', 'pipe'],
    env: {
      ...{ PATH: process.env.PATH, HOME: '/', LC_ALL: 'C.UTF-8', SVT_LOG: '1' },
      // The kernel knows nothing of one that is only just being started when this process is killed.
      ...inheritedMark(),
    },
  })
  let errors = ''
  let stopped: ProgramEnd['stopped'] = null
  let outputBytes = 0
  const end = (why: NonNullable<ProgramEnd['stopped']>): void => {
    if (stopped) return
    stopped = why
    signalGroup(child, 'SIGTERM')
    setTimeout(() => signalGroup(child, 'SIGKILL'), graceMilliseconds).unref()
  }
  const deadline = setTimeout(() => end('time is up'), options.timeLimitSeconds * 1000)
  child.stdin?.on('error', () => {})
  child.stdout?.on('data', (chunk: Buffer) => {
    outputBytes += chunk.length
    if (outputBytes > (options.maxOutputBytes ?? Infinity)) end('too much output')
    else options.onOutput?.(chunk)
  })
  child.stderr?.setEncoding('utf8').on('data', (chunk: string) => {
    errors = (errors + chunk).slice(-keptErrorCharacters)
    options.onError?.(chunk)
  })
  const progress = child.stdio[3] as NodeJS.ReadableStream | null
  progress?.setEncoding('utf8').on('data', (chunk) => options.onProgress?.(chunk as string))
  const ended = new Promise<ProgramEnd>((resolve) => {
    const settle = (code: number | null): void => {
      clearTimeout(deadline)
      running.delete(made)
      resolve({ code, stopped, errors })
    }
    child.once('error', (error) => {
      errors += String(error)
      settle(null)
    })
    child.once('close', (code) => settle(code))
  })
  const made: RunningProgram = {
    pid: child.pid,
    input: child.stdin,
    ended,
    stop: () => {
      end('asked')
      return ended
    },
    kill: () => {
      stopped ??= 'asked'
      signalGroup(child, 'SIGKILL')
      return ended
    },
  }
  running.add(made)
  return made
}
