import { mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterEach, beforeEach, expect, it } from 'vitest'
import { KeyFileProblem, readKeyFile } from './keyFile'

let directory: string
beforeEach(() => {
  directory = mkdtempSync(join(tmpdir(), 'green-mantle-key-'))
})
afterEach(() => rmSync(directory, { recursive: true, force: true }))
const path = (): string => join(directory, 'installation.key')

it('is made once, whole and for its owner alone, however many want it at once', async () => {
  const keys = await Promise.all(Array.from({ length: 8 }, () => readKeyFile(path())))
  expect(new Set(keys.map(({ id }) => id)).size).toBe(1)
  expect(statSync(path()).mode & 0o777).toBe(0o600)
  expect(readdirSync(directory)).toEqual(['installation.key'])
})

it.each([
  ['', /is empty/],
  ['not a key at all', /is damaged/],
])('says what is wrong with one that holds %j, and leaves it', async (text, words) => {
  writeFileSync(path(), text, { mode: 0o600 })
  await expect(readKeyFile(path())).rejects.toThrow(words)
  await expect(readKeyFile(path())).rejects.toBeInstanceOf(KeyFileProblem)
})
