import { ask } from './ask'

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
  const { status } = await fetch(`/api/files/${id}`, { method: 'HEAD' })
  if (status !== 200 && status !== 404) throw new Error(`The server answered ${status}.`)
  return status === 200
}

/** Stores a person's own file; the same contents are kept once. */
export async function storeFile(file: Blob, mediaType: string): Promise<StoredFile> {
  const init = { method: 'POST', headers: { 'content-type': mediaType }, body: file }
  const response = await ask('/files', init, 'The file was not stored; try again.')
  return response.json() as Promise<StoredFile>
}
