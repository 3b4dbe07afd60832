import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { readFileSync } from 'node:fs'
import { setTimeout as pause } from 'node:timers/promises'
import { afterEach, describe, expect, it } from 'vitest'
import { ProgramMissing, runProgram, stopPrograms } from './runProgram'
import { missingProgram } from './systemPrograms'

const shell = { programs: ['sh'], debianPackage: 'dash' }
const run = (script: string, options: Partial<Parameters<typeof runProgram>[3]> = {}) =>
  runProgram(shell, 'sh', ['-c', script], { timeLimitSeconds: 20, ...options })

const isAlive = (pid: number): boolean => {
  try {
    process.kill(pid, 0)
    return true
  } catch {
    return false
  }
}

afterEach(() => stopPrograms())

describe('a program of the system', () => {
  it('says what it wrote, its progress apart from its errors', async () => {
    const heard = { output: '', progress: '', errors: '' }
    const { code, errors, stopped } = await run('echo out; echo err >&2; echo far >&3; exit 3', {
      onOutput: (chunk) => (heard.output += chunk.toString()),
      onProgress: (chunk) => (heard.progress += chunk),
      onError: (chunk) => (heard.errors += chunk),
    }).ended
    expect(heard).toEqual({ output: 'out\n', progress: 'far\n', errors: 'err\n' })
    expect({ code, errors, stopped }).toEqual({ code: 3, errors: 'err\n', stopped: null })
  })

  it('ends when its time is up, and when it writes more than it may', async () => {
    expect((await run('sleep 30', { timeLimitSeconds: 0.2 }).ended).stopped).toBe('time is up')
    const chatty = await run('yes', { maxOutputBytes: 100_000 }).ended
    expect(chatty.stopped).toBe('too much output')
  })

  it('ends with its whole group, also where it does not listen', async () => {
    let child = 0
    const running = run('trap "" TERM; sleep 60 & echo $! >&3; while :; do sleep 1; done', {
      onProgress: (chunk) => (child = Number(chunk)),
    })
    while (child === 0) await pause(20)
    expect((await running.stop()).stopped).toBe('asked')
    expect(isAlive(running.pid as number)).toBe(false)
  })

  it('sees none of our environment, where secrets stand', async () => {
    process.env.GREEN_MANTLE_ACCESS_TOKEN = 'only-for-this-test'
    let seen = ''
    await run('env', { onOutput: (chunk) => (seen += chunk.toString()) }).ended
    delete process.env.GREEN_MANTLE_ACCESS_TOKEN
    expect(seen).toContain('PATH=')
    expect(seen).not.toContain('only-for-this-test')
  })

  it('is named with its package where it is missing', () => {
    const nowhere = { programs: ['no-such-program'], debianPackage: 'some-package' }
    expect(missingProgram(nowhere)).toMatch(/no-such-program .* package some-package/)
    expect(() => runProgram(nowhere, 'no-such-program', [], { timeLimitSeconds: 1 })).toThrow(
      ProgramMissing,
    )
  })

  it('does not outlive its starter, however that ends', async () => {
    const starter = spawn(
      process.execPath,
      [
        '--import',
        'tsx',
        '--input-type=module',
        '-e',
        `import { runProgram } from './server/programs/runProgram.ts'
         const { pid } = runProgram({ programs: ['sh'], debianPackage: 'dash' }, 'sleep', ['60'], { timeLimitSeconds: 60 })
         console.log(pid)
         setInterval(() => {}, 1000)`,
      ],
      { stdio: ['ignore', 'pipe', 'inherit'] },
    )
    const [line] = (await once(starter.stdout, 'data')) as [Buffer]
    const pid = Number(line.toString())
    expect(isAlive(pid)).toBe(true)
    // Only from then on does the kernel know of it; before that it is the guardian's.
    while (readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('setpriv')) await pause(20)
    starter.kill('SIGKILL')
    for (let tries = 0; tries < 100 && isAlive(pid); tries += 1) await pause(50)
    expect(isAlive(pid)).toBe(false)
  })
})
