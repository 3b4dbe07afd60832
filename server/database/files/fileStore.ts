import { createHash } from 'node:crypto'
import type { Knex } from 'knex'
import { withDeadline } from '../../http/deadline'
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
/** A download whose database does not answer is ended. */
const chunkDeadlineSeconds = 30

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

/** A file to be kept: what is known of it, and its bytes in pieces of a size. */
export interface NewFile extends FileFacts {
  pieces(pieceBytes: number): AsyncIterable<Buffer>
}

/** A file that is held whole, under the SHA-256 of its contents. */
export function newFileOf(file: {
  mediaType: string
  bytes: Buffer
  width: number | null
  height: number | null
}): NewFile {
  const { mediaType, bytes, width, height } = file
  return {
    id: createHash('sha256').update(bytes).digest('hex'),
    ...{ mediaType, byteCount: bytes.length, width, height },
    async *pieces(pieceBytes) {
      for (let start = 0; start < bytes.length; start += pieceBytes)
        yield bytes.subarray(start, start + pieceBytes)
      await Promise.resolve()
    },
  }
}

/** Keeps a file under the hash of its contents, once however often it is sent; resolves after commit. */
export async function storeFile(database: Knex, file: NewFile): Promise<FileFacts> {
  const { id, mediaType, byteCount, width, height, pieces } = file
  const now = new Date()
  // One that is chosen again counts as new, so that it is not tidied away before it is saved.
  const isThere = await database('files').where({ id }).update({ created_at: now })
  const known = isThere > 0 ? await findFile(database, id) : undefined
  if (known) return known
  await inTransaction(
    database,
    async (transaction) => {
      // Two senders of the same file may get here at once; the first one's rows are as good.
      const [inserted] = await transaction.raw(
        'INSERT IGNORE INTO files (id, media_type, byte_count, width, height, created_at) VALUES (?, ?, ?, ?, ?, ?)',
        [id, mediaType, byteCount, width, height, now],
      )
      if ((inserted as { affectedRows: number }).affectedRows === 0) return
      let position = 0
      for await (const bytes of pieces(chunkBytes)) {
        await transaction('file_chunks').insert({ file_id: id, position, bytes })
        position += 1
      }
    },
    byteCount,
  )
  return { id, mediaType, byteCount, width, height }
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
    const row = await withDeadline(
      database<ChunkRow>('file_chunks').where({ file_id: id, position }).first('bytes').then(),
      chunkDeadlineSeconds,
    )
    if (!row) return
    const offset = position * chunkBytes
    yield row.bytes.subarray(Math.max(0, start - offset), end + 1 - offset)
  }
}

/** All bytes of a file, chunk by chunk; none where there is no such file. */
export async function* readWholeFile(database: Knex, id: string): AsyncGenerator<Buffer> {
  const file = await findFile(database, id)
  if (file) yield* readFile(database, id, 0, file.byteCount - 1)
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
