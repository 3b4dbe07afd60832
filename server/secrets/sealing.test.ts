import { chmodSync, mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { afterAll, describe, expect, it } from 'vitest'
import { readKeyFile } from './keyFile'
import { fingerprint, seal, unseal } from './sealing'

const directory = mkdtempSync(join(tmpdir(), 'green-mantle-key-'))
afterAll(() => rmSync(directory, { recursive: true, force: true }))
const path = (name: string): string => join(directory, name, 'installation.key')

describe('the key file', () => {
  it('is made once, for its owner only, and read as it is afterwards', async () => {
    const [first, second] = await Promise.all([readKeyFile(path('a')), readKeyFile(path('a'))])
    expect(statSync(path('a')).mode & 0o777).toBe(0o600)
    expect(first).toEqual(second)
    expect(await readKeyFile(path('a'))).toEqual(first)
    expect((await readKeyFile(path('b'))).id).not.toBe(first.id)
  })

  it('is refused where others may read it, and never overwritten where it is damaged', async () => {
    await readKeyFile(path('c'))
    chmodSync(path('c'), 0o644)
    await expect(readKeyFile(path('c'))).rejects.toThrow(/may be read by others.*chmod 600/)
    chmodSync(path('c'), 0o600)
    writeFileSync(path('c'), 'short')
    await expect(readKeyFile(path('c'))).rejects.toThrow(/damaged.*Put your copy of it back/)
    expect(readFileSync(path('c'), 'utf8')).toBe('short')
  })
})

describe('sealing', () => {
  it('opens to what was sealed, and holds none of it in the clear', async () => {
    const key = await readKeyFile(path('a'))
    fc.assert(
      fc.property(fc.string({ minLength: 4, unit: 'binary' }), (text) => {
        const sealed = seal(key, text, 'show/destination')
        expect(unseal(key, sealed, 'show/destination')).toEqual({ outcome: 'opened', text })
        expect(Buffer.from(sealed).includes(Buffer.from(text))).toBe(false)
      }),
    )
    expect(seal(key, 'same', 'place')).not.toBe(seal(key, 'same', 'place'))
  })

  it('notices every single changed character', async () => {
    const key = await readKeyFile(path('a'))
    const sealed = seal(key, 'live_a1b2c3', 'place')
    for (let at = 0; at < sealed.length; at += 1) {
      const other = sealed[at] === 'A' ? 'B' : 'A'
      const changed = sealed.slice(0, at) + other + sealed.slice(at + 1)
      expect(unseal(key, changed, 'place').outcome).not.toBe('opened')
    }
  })

  it('tells damage from another key file, and does not open elsewhere', async () => {
    const [key, other] = [await readKeyFile(path('a')), await readKeyFile(path('b'))]
    const sealed = seal(key, 'live_a1b2c3', 'place')
    expect(unseal(other, sealed, 'place')).toEqual({ outcome: 'other key file' })
    expect(unseal(key, `${sealed.slice(0, -6)}AAAAA=`, 'place')).toEqual({ outcome: 'damaged' })
    expect(unseal(key, sealed, 'another place')).toEqual({ outcome: 'damaged' })
    expect(unseal(key, '', 'place')).toEqual({ outcome: 'damaged' })
  })

  it('gives the same key the same fingerprint, under one key file only', async () => {
    const [key, other] = [await readKeyFile(path('a')), await readKeyFile(path('b'))]
    expect(fingerprint(key, 'live_a')).toBe(fingerprint(key, 'live_a'))
    expect(fingerprint(key, 'live_a')).not.toBe(fingerprint(key, 'live_b'))
    expect(fingerprint(key, 'live_a')).not.toBe(fingerprint(other, 'live_a'))
  })
})
