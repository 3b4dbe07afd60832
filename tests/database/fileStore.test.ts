import { createHash } from 'node:crypto'
import { demoShow } from '@green-mantle/demo'
import type { Knex } from 'knex'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { connect, migrate } from '../../server/database/connection'
import {
  findFile,
  newFileOf,
  purgeUnusedFiles,
  readFile,
  storeFile,
} from '../../server/database/files/fileStore'
import { createShow } from '../../server/database/shows/showStore'
import { ownDatabase } from './ownDatabase'

const databaseUrl = await ownDatabase('files')
let database: Knex
beforeAll(async () => {
  database = connect(databaseUrl)
  await migrate(databaseUrl)
})
beforeEach(() => database('files').delete())
afterAll(() => database.destroy())

/** Larger than two chunks and not a whole number of them. */
const bytes = Buffer.alloc(9_000_001, Buffer.from([7, 1, 250, 33, 0]))
const file = { mediaType: 'video/mp4', bytes, width: null, height: null }

async function read(id: string, start: number, end: number): Promise<Buffer> {
  const parts: Buffer[] = []
  for await (const part of readFile(database, id, start, end)) parts.push(part)
  return Buffer.concat(parts)
}

describe('a person’s own file', () => {
  it('is kept under the hash of its contents and comes back byte for byte', async () => {
    const stored = await storeFile(database, newFileOf(file))
    expect(stored.id).toBe(createHash('sha256').update(bytes).digest('hex'))
    expect(await findFile(database, stored.id)).toEqual(stored)
    expect((await read(stored.id, 0, bytes.length - 1)).equals(bytes)).toBe(true)
  })

  it('gives any part of itself, across chunks too', async () => {
    const { id } = await storeFile(database, newFileOf(file))
    for (const [start, end] of [
      [0, 0],
      [3_999_998, 4_000_003],
      [8_000_000, 9_000_000],
    ] as const)
      expect((await read(id, start, end)).equals(bytes.subarray(start, end + 1))).toBe(true)
  })

  it('is kept once, however many send it at once', async () => {
    const stored = await Promise.all(
      Array.from({ length: 5 }, () => storeFile(database, newFileOf(file))),
    )
    expect(new Set(stored.map(({ id }) => id)).size).toBe(1)
    expect(await database('file_chunks').count({ count: '*' }).first()).toMatchObject({ count: 3 })
  })

  it('goes for good when no show has used it for thirty days, and only then', async () => {
    const used = await storeFile(database, newFileOf({ ...file, bytes: Buffer.from('used') }))
    const unused = await storeFile(database, newFileOf({ ...file, bytes: Buffer.from('unused') }))
    const show = structuredClone(demoShow)
    show.sources[0]!.appearance = { type: 'picture file', fileId: used.id, fileName: 'used.png' }
    await createShow(database, 'user-of-a-file', show)
    const inDays = (days: number) => new Date(Date.now() + days * 24 * 3_600_000)
    await purgeUnusedFiles(database, inDays(29))
    expect(await findFile(database, unused.id)).toBeDefined()
    await purgeUnusedFiles(database, inDays(31))
    expect(await findFile(database, unused.id)).toBeUndefined()
    expect(await findFile(database, used.id)).toBeDefined()
    await database('shows').where({ id: 'user-of-a-file' }).delete()
  })

  it('is not there where nobody stored it', async () => {
    expect(await findFile(database, 'f'.repeat(64))).toBeUndefined()
  })
})
