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

/** Stores a person's own file; the same contents are kept once. */
export async function storeFile(file: Blob, mediaType: string): Promise<StoredFile> {
  let response: Response
  try {
    response = await fetch('/api/files', {
      method: 'POST',
      headers: { 'content-type': mediaType },
      body: file,
    })
  } catch {
    throw new ApiProblem(0, 'The server does not answer', 'The file was not stored; try again.')
  }
  const body = (await response.json().catch(() => ({}))) as Record<string, unknown>
  if (response.ok) return body as unknown as StoredFile
  throw new ApiProblem(
    response.status,
    String(body.title ?? 'The server refused'),
    String(body.detail ?? `It answered ${response.status}.`),
    body,
  )
}
