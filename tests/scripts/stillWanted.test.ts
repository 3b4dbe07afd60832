import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, expect, it, vi } from 'vitest'
import { root } from '../../scripts/paths'

const folder = mkdtempSync(join(tmpdir(), 'green-mantle-wanted-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

it.each(['demo', 'dev'])(
  '%s starts nothing where npm was killed before it came to it',
  async (script) => {
    const said = join(folder, script)
    // Begun by a shell that ends at once, so that nobody of ours is among its forebears.
    const command = `node --import tsx scripts/${script}.ts > ${said} 2>&1; echo "ended $?" >> ${said}`
    spawn('sh', ['-c', `(sleep 0.2; ${command}) &`], {
      cwd: root,
      env: { ...process.env, npm_lifecycle_event: script },
      detached: true,
      stdio: 'ignore',
    })
    const text = (): string => readFileSync(said, 'utf8')
    await vi.waitFor(() => expect(text()).toContain('ended'), { timeout: 60_000, interval: 100 })
    expect(text()).toMatch(/nothing is started[^]*ended 1/)
  },
)
