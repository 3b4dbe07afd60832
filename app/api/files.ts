import { ask } from './ask'
import { ApiProblem } from './problem'

/** A file as the server keeps it. */
export interface StoredFile {
  id: string
  mediaType: string
  byteCount: number
  width: number | null
  height: number | null
  /** What was taken out of an SVG. */
  removed: string[]
}

/** Whether the server keeps a file. */
export async function isFileKept(id: string): Promise<boolean> {
  try {
    await ask(`/files/${id}`, { method: 'HEAD' })
    return true
  } catch (error) {
    if (error instanceof ApiProblem && error.status === 404) return false
    throw error
  }
}

/** Stores a person's own file; the same contents are kept once. */
export async function storeFile(file: Blob, mediaType: string): Promise<StoredFile> {
  const init = { method: 'POST', headers: { 'content-type': mediaType }, body: file }
  const response = await ask('/files', init, 'The file was not stored; try again.')
  return response.json() as Promise<StoredFile>
}
