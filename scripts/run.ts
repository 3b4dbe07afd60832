import { spawn, type SpawnOptions } from 'node:child_process'
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

/** Ends the script with a message instead of a stack where it can't go on. */
export function main(script: () => Promise<void>): void {
  script().catch((error: unknown) => {
    console.error(error instanceof Error ? error.message : error)
    process.exitCode = 1
  })
}
