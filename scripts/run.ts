import { spawn, type SpawnOptions } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { root } from './paths'

/** Runs a command in the project's folder with its output shown; resolves with its exit code. */
export function run(command: string, args: string[], options: SpawnOptions = {}): Promise<number> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: root, stdio: 'inherit', ...options })
    child.once('error', reject)
    child.once('exit', (code, signal) => resolve(code ?? (signal ? 1 : 0)))
  })
}

/** Runs a command and throws where it fails. */
export async function runOrThrow(command: string, args: string[]): Promise<void> {
  const code = await run(command, args)
  if (code !== 0) throw new Error(`${command} ${args.join(' ')} ended with ${code}`)
}

/** What all that this process has waited for has used of the processor, from proc(5). */
function secondsOfEnded(): number {
  const fields = readFileSync('/proc/self/stat', 'utf8').split(') ')[1]?.split(' ') ?? []
  return (Number(fields[13]) + Number(fields[14])) / 100
}
let accountedSeconds = 0

export interface Ended {
  code: number
  output: string
  /** What it used of the processor, with all that it started and waited for. */
  processorSeconds: number
}

interface RunOptions {
  env: NodeJS.ProcessEnv
  /** The folder that it runs in; the project's, where it is not said. */
  cwd?: string
  /** The cores that it may use, as taskset takes them; any, where it is not said. */
  cores?: string
}

/** The cores that this process may use, as proc(5) lists them: `0-3,6`. */
function allowedCores(): number[] {
  const [, list = ''] =
    /^Cpus_allowed_list:\s*(\S+)/m.exec(readFileSync('/proc/self/status', 'utf8')) ?? []
  return list.split(',').flatMap((part) => {
    const [first = 0, last = first] = part.split('-').map(Number)
    return Array.from({ length: last - first + 1 }, (_, index) => first + index)
  })
}

/** One core for what has to have one to itself, and the others; null where there is only one. */
export function twoShares(): { first: string; others: string } | null {
  const [first, ...others] = allowedCores()
  return others.length === 0 ? null : { first: `${first}`, others: others.join(',') }
}

/** Runs a command in the project's folder and keeps what it writes, for when it has ended. */
export function runQuietly(
  command: string,
  args: string[],
  { env, cwd = root, cores }: RunOptions,
): Promise<Ended> {
  return new Promise((resolve, reject) => {
    const [program, ...given] = cores
      ? ['taskset', '-c', cores, command, ...args]
      : [command, ...args]
    const child = spawn(program as string, given, {
      cwd,
      env,
      stdio: ['ignore', 'pipe', 'pipe'],
    })
    const written: Buffer[] = []
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (bytes: Buffer) => written.push(bytes))
    let processorSeconds = 0
    child.once('error', reject)
    // Only what has just ended has been added since the one before ended.
    child.once('exit', () => {
      const all = secondsOfEnded()
      processorSeconds = all - accountedSeconds
      accountedSeconds = all
    })
    child.once('close', (code, signal) =>
      resolve({
        code: code ?? (signal ? 1 : 0),
        output: Buffer.concat(written).toString(),
        processorSeconds,
      }),
    )
  })
}

/** What the system says by a code alone, in words. */
const systemErrors: Record<string, string> = {
  EACCES: 'may not be written by this user',
  EPERM: 'may not be written by this user',
  EROFS: 'is on a disk that can only be read',
  ENOSPC: 'is on a disk that is full',
  ENOTDIR: 'is in a place that is no folder',
}

function inWords(error: unknown): string {
  if (!(error instanceof Error)) return String(error)
  const { code = '', path } = error as NodeJS.ErrnoException
  const words = systemErrors[code]
  return words && path ? `${path} ${words}; nothing was changed. (${error.message})` : error.message
}

/** Ends the script with a message instead of a stack where it can't go on. */
export function main(script: () => Promise<void>): void {
  script().catch((error: unknown) => {
    console.error(inWords(error))
    process.exitCode = 1
  })
}
