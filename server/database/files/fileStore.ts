import { createHash } from 'node:crypto'
import type { Knex } from 'knex'
import { inTransaction } from '../transactions'

export interface FileFacts {
  id: string
  mediaType: string
  byteCount: number
  width: number | null
  height: number | null
}

/** Well under the 16 MB that the server takes in one packet unless it is told otherwise. */
const chunkBytes = 4_000_000

interface FileRow {
  id: string
  media_type: string
  byte_count: number
  width: number | null
  height: number | null
}

interface ChunkRow {
  file_id: string
  position: number
  bytes: Buffer
}

const factsFrom = (row: FileRow): FileFacts => ({
  id: row.id,
  mediaType: row.media_type,
  byteCount: row.byte_count,
  width: row.width,
  height: row.height,
})

export async function findFile(database: Knex, id: string): Promise<FileFacts | undefined> {
  const row = await database<FileRow>('files').where({ id }).first()
  return row && factsFrom(row)
}

/** Keeps a file under the SHA-256 of its contents, once however often it is sent; resolves after commit. */
export async function storeFile(
  database: Knex,
  file: { mediaType: string; bytes: Buffer; width: number | null; height: number | null },
): Promise<FileFacts> {
  const id = createHash('sha256').update(file.bytes).digest('hex')
  const known = await findFile(database, id)
  if (known) return known
  const { mediaType, bytes, width, height } = file
  await inTransaction(database, async (transaction) => {
    // Two senders of the same file may get here at once; the first one's rows are as good.
    const [inserted] = await transaction.raw(
      'INSERT IGNORE INTO files (id, media_type, byte_count, width, height, created_at) VALUES (?, ?, ?, ?, ?, ?)',
      [id, mediaType, bytes.length, width, height, new Date()],
    )
    if ((inserted as { affectedRows: number }).affectedRows === 0) return
    for (let position = 0; position * chunkBytes < bytes.length; position += 1)
      await transaction('file_chunks').insert({
        file_id: id,
        position,
        bytes: bytes.subarray(position * chunkBytes, (position + 1) * chunkBytes),
      })
  })
  return { id, mediaType, byteCount: bytes.length, width, height }
}

/** The bytes of a file from `start` up to and including `end`, chunk by chunk. */
export async function* readFile(
  database: Knex,
  id: string,
  start: number,
  end: number,
): AsyncGenerator<Buffer> {
  const first = Math.floor(start / chunkBytes)
  const last = Math.floor(end / chunkBytes)
  for (let position = first; position <= last; position += 1) {
    const row = await database<ChunkRow>('file_chunks')
      .where({ file_id: id, position })
      .first('bytes')
    if (!row) return
    const offset = position * chunkBytes
    yield row.bytes.subarray(Math.max(0, start - offset), end + 1 - offset)
  }
}

/** A file that no show uses any more is kept this long, as a deleted show is. */
const keepUnusedDays = 30

/** Where a show names files, as table, column and path within it. */
const fileReferences = [
  ['sources', 'appearance', '$.fileId'],
  ['shows', 'words', '$.thumbnail.fileId'],
  ['destinations', 'words', '$.thumbnail.fileId'],
] as const

/** Removes for good what was stored long ago and no show, deleted or not, refers to. */
export async function purgeUnusedFiles(database: Knex, now = new Date()): Promise<void> {
  const before = new Date(now.getTime() - keepUnusedDays * 24 * 3_600_000)
  const query = database('files').where('created_at', '<', before)
  for (const [table, column, path] of fileReferences) {
    const named = database.raw('JSON_VALUE(??, ?)', [column, path])
    void query.whereNotIn('id', database(table).select(named).whereRaw('? IS NOT NULL', [named]))
  }
  await query.delete()
}
