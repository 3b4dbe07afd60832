import { Readable } from 'node:stream'
import {
  getRequestHeader,
  getRouterParam,
  sendStream,
  setResponseHeaders,
  setResponseStatus,
} from 'h3'
import { useDatabase } from '../database/connection'
import { findFile, readFile } from '../database/files/fileStore'
import { apiHandler } from '../http/apiHandler'
import { byteRange } from '../http/byteRange'
import { ProblemError } from '../http/problem'

/** Answers with a person's own file, or what is to be known of it. Its name is its contents' hash, so it never changes and may be kept for good. */
export const sendFile = (isWithBody: boolean) =>
  apiHandler(async (event) => {
    const database = await useDatabase()
    const file = await findFile(database, getRouterParam(event, 'id') ?? '')
    if (!file)
      throw new ProblemError({
        status: 404,
        title: 'There is no such file here',
        detail: 'It was stored by another installation, or never. It can be chosen again.',
      })
    const range = byteRange(getRequestHeader(event, 'range'), file.byteCount)
    if (!range)
      throw new ProblemError(
        {
          status: 416,
          title: 'The file is shorter than that',
          detail: `It has ${file.byteCount} bytes.`,
        },
        { 'content-range': `bytes */${file.byteCount}` },
      )
    setResponseStatus(event, range.isPart ? 206 : 200)
    setResponseHeaders(event, {
      'content-type': file.mediaType,
      'content-length': range.end - range.start + 1,
      'accept-ranges': 'bytes',
      'cache-control': 'private, max-age=31536000, immutable',
      'x-content-type-options': 'nosniff',
      // Should somebody open it on its own, nothing in it may run or load.
      'content-security-policy':
        "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox",
      ...(range.isPart
        ? { 'content-range': `bytes ${range.start}-${range.end}/${file.byteCount}` }
        : {}),
    })
    if (!isWithBody) return null
    return sendStream(event, Readable.from(readFile(database, file.id, range.start, range.end)))
  })
