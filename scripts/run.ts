import { spawn, type SpawnOptions } from 'node:child_process'
import { setPriority } from 'node:os'
import { root } from './paths'

const patientPriority = 15

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

/**
 * Runs a command in the project's folder and keeps what it writes, for when it has ended. What
 * is patient takes only what others leave of the processor.
 */
export function runQuietly(
  command: string,
  args: string[],
  { env, isPatient = false }: { env: NodeJS.ProcessEnv; isPatient?: boolean },
): Promise<{ code: number; output: string }> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: root, env, stdio: ['ignore', 'pipe', 'pipe'] })
    if (isPatient && child.pid !== undefined) setPriority(child.pid, patientPriority)
    const written: Buffer[] = []
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (bytes: Buffer) => written.push(bytes))
    child.once('error', reject)
    child.once('close', (code, signal) =>
      resolve({ code: code ?? (signal ? 1 : 0), output: Buffer.concat(written).toString() }),
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
