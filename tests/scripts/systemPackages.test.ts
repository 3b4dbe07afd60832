import { afterEach, describe, expect, it, vi } from 'vitest'
import { freePort } from '../../scripts/ports'
import { ensurePrograms } from '../../scripts/systemPackages'
import { findProgram } from '../../server/programs/systemPrograms'

afterEach(() => vi.restoreAllMocks())

describe('programs of the system', () => {
  it('are found in PATH and in the folders of the system', () => {
    expect(findProgram('sh')).toMatch(/\/sh$/)
    expect(findProgram('no-such-program-anywhere')).toBeUndefined()
  })

  it('ask for nothing where nothing is missing', async () => {
    await expect(
      ensurePrograms([{ programs: ['sh'], debianPackage: 'dash' }]),
    ).resolves.toBeUndefined()
  })

  it('name the package to install where the user is not root', async () => {
    vi.spyOn(process, 'getuid').mockReturnValue(1000)
    await expect(
      ensurePrograms([{ programs: ['no-such-program-anywhere'], debianPackage: 'some-package' }]),
    ).rejects.toThrow(/Install the Debian package some-package/)
  })
})

describe('ports', () => {
  it('take the next one where the first is taken', async () => {
    const { createServer } = await import('node:net')
    const first = await freePort(4900)
    const server = createServer().listen(first, '127.0.0.1')
    await new Promise((resolve) => server.once('listening', resolve))
    expect(await freePort(first)).toBeGreaterThan(first)
    await new Promise((resolve) => server.close(resolve))
  })
})
