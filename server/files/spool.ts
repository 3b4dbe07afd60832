import { createHash, randomUUID } from 'node:crypto'
import { mkdirSync } from 'node:fs'
import { type FileHandle, open, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { workFolderName } from './workFolders'

/** A body that was written to a file of its own as it came, so that it is never held whole. */
export interface Spooled {
  byteCount: number
  /** SHA-256, in hexadecimal. */
  hash: string
  /** The first bytes, as many as tell what kind of file it is. */
  beginning: Buffer
  /** The bytes in pieces of a size; the last may be smaller. */
  pieces(pieceBytes: number): AsyncGenerator<Buffer>
  remove(): Promise<void>
}

const beginningBytes = 64
/** So long the rest of what is too large is let go by. */
const letGoMilliseconds = 3000

/** Writes what comes to a file up to a limit; null where there is more, of which nothing is left. */
export async function spool(
  chunks: AsyncIterable<Buffer>,
  limitBytes: number,
): Promise<Spooled | null> {
  const folder = workFolderName('uploads')
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const path = join(folder, randomUUID())
  const file = await open(path, 'wx', 0o600)
  const remove = (): Promise<void> => rm(path, { force: true })
  const hash = createHash('sha256')
  let byteCount = 0
  let refusedAt: number | null = null
  let beginning = Buffer.alloc(0)
  try {
    for await (const chunk of chunks) {
      byteCount += chunk.length
      if (byteCount > limitBytes) {
        // The rest passes unread, since a sender that is cut off never sees the answer; but not for long.
        refusedAt ??= performance.now()
        if (performance.now() - refusedAt > letGoMilliseconds) break
        continue
      }
      if (beginning.length < beginningBytes)
        beginning = Buffer.concat([beginning, chunk]).subarray(0, beginningBytes)
      hash.update(chunk)
      await file.write(chunk)
    }
  } catch (error) {
    await remove()
    throw error
  } finally {
    await file.close()
  }
  if (refusedAt !== null) {
    await remove()
    return null
  }
  return {
    byteCount,
    hash: hash.digest('hex'),
    beginning,
    pieces: (pieceBytes) => piecesOf(path, pieceBytes),
    remove,
  }
}

async function* piecesOf(path: string, pieceBytes: number): AsyncGenerator<Buffer> {
  const file = await open(path, 'r')
  try {
    for (;;) {
      const piece = await readWhole(file, pieceBytes)
      if (piece.length === 0) return
      yield piece
    }
  } finally {
    await file.close()
  }
}

/** As many bytes as asked for, or what is left. */
async function readWhole(file: FileHandle, bytes: number): Promise<Buffer> {
  const buffer = Buffer.allocUnsafe(bytes)
  let length = 0
  while (length < bytes) {
    const { bytesRead } = await file.read(buffer, length, bytes - length)
    if (bytesRead === 0) break
    length += bytesRead
  }
  return buffer.subarray(0, length)
}
