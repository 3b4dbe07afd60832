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

/** Runs a command in the project's folder and keeps what it writes, for when it has ended. */
export function runQuietly(
  command: string,
  args: string[],
  env: NodeJS.ProcessEnv,
): Promise<{ code: number; output: string }> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { cwd: root, env, stdio: ['ignore', 'pipe', 'pipe'] })
    const written: Buffer[] = []
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (bytes: Buffer) => written.push(bytes))
    child.once('error', reject)
    child.once('close', (code, signal) =>
      resolve({ code: code ?? (signal ? 1 : 0), output: Buffer.concat(written).toString() }),
    )
  })
}

/** Ends the script with a message instead of a stack where it can't go on. */
export function main(script: () => Promise<void>): void {
  script().catch((error: unknown) => {
    console.error(error instanceof Error ? error.message : error)
    process.exitCode = 1
  })
}
