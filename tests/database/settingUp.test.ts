import { spawn } from 'node:child_process'
import { existsSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { startPrivateMariadb } from '../../scripts/mariadb'
import { binary, root } from '../../scripts/paths'

let directory: string
beforeEach(() => {
  directory = mkdtempSync(join(tmpdir(), 'green-mantle-set-up-'))
})
afterEach(() => rmSync(directory, { recursive: true, force: true }))

const starting = `
  import { startPrivateMariadb } from './scripts/mariadb'
  startPrivateMariadb({ directory: process.argv[1], firstPort: 4330 })`

it.each([50, 600, 2500])(
  'a database whose set-up was killed after %i ms starts all the same',
  async (afterMilliseconds) => {
    const first = spawn(binary('tsx'), ['-e', starting, directory], {
      cwd: root,
      stdio: 'ignore',
      detached: true,
    })
    const deadline = Date.now() + 30_000
    while (!existsSync(`${directory}/data.unfinished`) && Date.now() < deadline)
      await new Promise((resolve) => setTimeout(resolve, 10))
    await new Promise((resolve) => setTimeout(resolve, afterMilliseconds))
    process.kill(-first.pid!, 'SIGKILL')
    // On a quick machine the server runs by then; its guardian ends it, which the next start waits for.
    const mariadb = await startPrivateMariadb({ directory, firstPort: 4340 })
    await mariadb.stop()
    expect(existsSync(`${directory}/data.unfinished`)).toBe(false)
  },
)
