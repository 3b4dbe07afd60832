import { open } from 'node:fs/promises'
import { extname } from 'node:path'

/** The containers that are read here, as the encoder program calls its readers. */
export type Container = 'mov' | 'matroska' | 'mpegts' | 'flv'

/**
 * What stands before a file that is read: it is read as what it is, never as what its first bytes suggest.
 * Guessed, a text that begins like a film is read as a list of other files.
 */
export const readAs = (container: Container): string[] => [
  ...['-f', container, '-protocol_whitelist', 'file', '-format_whitelist', container],
]

const byEnding: Readonly<Record<string, Container>> = {
  '.mkv': 'matroska',
  '.mov': 'mov',
  '.mp4': 'mov',
  '.ts': 'mpegts',
  '.flv': 'flv',
}

/** What a file of our own making is, by its ending; null where its ending is none of ours. */
export const containerOfOwn = (path: string): Container | null => byEnding[extname(path)] ?? null

/** A file of our own making, with what stands before it; throws where its ending is none of ours. */
export function ownInput(path: string, ...before: string[]): string[] {
  const container = containerOfOwn(path)
  if (!container) throw new Error(`${path} is no file that is read here.`)
  return [...before, ...readAs(container), '-i', path]
}

/** How films begin: EBML, and the boxes with which an ISO base media or QuickTime file may. */
const ebml = '1a45dfa3'
const firstBoxes = new Set(['ftyp', 'moov', 'mdat', 'wide', 'free', 'skip', 'pnot'])

/** What a person's film is, by how it begins; null where it is none of those that are taken. */
export async function containerOfFilm(path: string): Promise<Container | null> {
  const file = await open(path)
  try {
    const head = Buffer.alloc(8)
    const { bytesRead } = await file.read(head, 0, 8, 0)
    if (bytesRead < 8) return null
    if (head.toString('hex', 0, 4) === ebml) return 'matroska'
    return firstBoxes.has(head.toString('latin1', 4, 8)) ? 'mov' : null
  } finally {
    await file.close()
  }
}
