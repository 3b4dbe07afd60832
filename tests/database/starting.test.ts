import { type ChildProcess, spawn, type SpawnOptions } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { lockFolder } from '../../scripts/folderLock'
import { startPrivateMariadb } from '../../scripts/mariadb'
import { root } from '../../scripts/paths'
import { portFrom } from '../../scripts/ports'
import { processFacts } from '../../scripts/processes'
import { familyOf } from './processFamily'
import { casesOf, mostMilliseconds } from '../tier'

let directory: string
beforeEach(() => {
  directory = mkdtempSync(join(tmpdir(), 'green-mantle-start-'))
})
afterEach(() => rmSync(directory, { recursive: true, force: true }))

/** As `npm run demo` does it: a single process, under whatever command it is given to. */
const start = (under: (program: string, args: string[]) => ChildProcess): ChildProcess =>
  under(process.execPath, ['--import', 'tsx', 'tests/database/startsDatabase.ts', directory])
const options: SpawnOptions = {
  cwd: root,
  stdio: ['ignore', 'pipe', 'inherit'],
  detached: true,
}
const byItself = (program: string, args: string[]): ChildProcess => spawn(program, args, options)
const untilRunning = (child: ChildProcess): Promise<void> =>
  new Promise((resolve) => child.stdout?.on('data', () => resolve()))
const isRunning = (pid: number): boolean => processFacts(pid) !== null
const serverOf = (folder: string): number => Number(readFileSync(`${folder}/mariadb.pid`, 'utf8'))

async function untilGone(pid: number): Promise<number> {
  const since = Date.now()
  while (isRunning(pid) && Date.now() - since < mostMilliseconds(10_000))
    await new Promise((resolve) => setTimeout(resolve, 50))
  return Date.now() - since
}

describe('nothing is left within five seconds', () => {
  it.each(
    casesOf(['SIGTERM', 'SIGINT', 'SIGHUP', 'SIGKILL'] as const, (signal) => signal === 'SIGKILL'),
  )('of %s to each of the processes in turn', async (signal) => {
    for (const place of ['starter', 'guardian', 'shell'] as const) {
      // A shell keeps this signal to itself until its command has ended.
      if (place === 'shell' && signal === 'SIGINT') continue
      const child = start((program, args) =>
        spawn('sh', ['-c', '"$0" "$@"; true', program, ...args], options),
      )
      await untilRunning(child)
      const [shell, starter, ...others] = familyOf(child.pid!)
      const server = serverOf(directory)
      const guardian = others.find((pid) => pid !== server)
      process.kill({ starter, guardian, shell }[place]!, signal)
      // The guardian heeds nothing but its own death.
      if (place === 'guardian' && signal !== 'SIGKILL') process.kill(starter!, 'SIGTERM')
      expect(await untilGone(server)).toBeLessThan(mostMilliseconds(5000))
      for (const pid of [starter!, guardian!])
        expect(await untilGone(pid)).toBeLessThan(mostMilliseconds(5000))
    }
  })
})

describe('two starts in one folder', () => {
  it('at once: one runs, the other is told which', async () => {
    const starts = await Promise.allSettled([
      startPrivateMariadb({ directory, firstPort: 4360 }),
      // From another process, since one process is not refused by itself.
      new Promise((resolve, reject) => {
        const child = start(byItself)
        let said = ''
        child.stdout?.on('data', () => resolve(child.kill()))
        child.once('exit', () => reject(new Error(said)))
        said = 'refused'
      }),
    ])
    const outcomes = starts.map(({ status }) => status).sort()
    for (const each of starts)
      if (each.status === 'fulfilled' && typeof each.value === 'object')
        await (each.value as { stop(): Promise<void> }).stop()
    expect(outcomes).toEqual(['fulfilled', 'rejected'])
  })

  it('takes over what a killed one left', async () => {
    writeFileSync(`${directory}/in-use-by`, '4194305\n')
    const lock = await lockFolder(directory)
    expect(readFileSync(`${directory}/in-use-by`, 'utf8')).toBe(`${process.pid}\n`)
    lock.release()
    writeFileSync(`${directory}/in-use-by`, `${process.ppid}\n`)
    await expect(lockFolder(directory)).rejects.toThrow(/in use already, by process \d+/)
  })
})

it.each(['0', 'abc', '70000', '4700.5'])('takes no port %s', (text) => {
  expect(() => portFrom(text, 4700)).toThrow(/a whole number from 1 to 65535/)
})
