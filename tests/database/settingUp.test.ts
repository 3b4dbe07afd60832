import { spawn } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { startPrivateMariadb } from '../../scripts/mariadb'
import { binary, root } from '../../scripts/paths'
import { familyOf } from './processFamily'
import { casesOf } from '../tier'

let directory: string
beforeEach(() => {
  directory = mkdtempSync(join(tmpdir(), 'green-mantle-set-up-'))
})
afterEach(() => rmSync(directory, { recursive: true, force: true }))

const starting = `
  import { startPrivateMariadb } from './scripts/mariadb'
  startPrivateMariadb({ directory: process.argv[1], firstPort: 4330 })`

const pause = (milliseconds: number): Promise<void> =>
  new Promise((resolve) => setTimeout(resolve, milliseconds))

/** Starts it in a process of its own, and kills that so long after a file of it is there, and `before` was done. */
async function killedAfter(
  milliseconds: number,
  file: string,
  before: (starter: number) => void = () => {},
): Promise<void> {
  const first = spawn(binary('tsx'), ['-e', starting, directory], {
    cwd: root,
    stdio: 'ignore',
    detached: true,
  })
  const deadline = Date.now() + 30_000
  while (!existsSync(`${directory}/${file}`) && Date.now() < deadline) await pause(10)
  await pause(milliseconds)
  before(first.pid!)
  process.kill(-first.pid!, 'SIGKILL')
}

it('a database that nobody ends is ended by the next start, its file with its number gone', async () => {
  const file = `${directory}/mariadb.pid`
  await killedAfter(300, 'mariadb.pid', (starter) => {
    const server = Number(readFileSync(file, 'utf8'))
    // It hears no SIGTERM either.
    process.kill(server, 'SIGSTOP')
    rmSync(file)
    const isGuardian = (pid: number): boolean =>
      readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('guardian.mjs')
    for (const pid of familyOf(starter).filter(isGuardian)) process.kill(pid, 'SIGKILL')
  })
  const mariadb = await startPrivateMariadb({ directory, firstPort: 4340 })
  await mariadb.stop()
})

it.each(casesOf([50, 600, 2500], (after) => after === 600))(
  'a database whose set-up was killed after %i ms starts all the same',
  async (afterMilliseconds) => {
    await killedAfter(afterMilliseconds, 'data.unfinished')
    // On a quick machine the server runs by then; its guardian ends it, which the next start waits for.
    const mariadb = await startPrivateMariadb({ directory, firstPort: 4340 })
    await mariadb.stop()
    expect(existsSync(`${directory}/data.unfinished`)).toBe(false)
  },
)
