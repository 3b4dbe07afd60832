import { getRequestHeader, type H3Event, setResponseHeader } from 'h3'

const letGoMilliseconds = 2000

/** Thrown where a body is longer than may be; the rest of it is not read. */
export class BodyTooLarge extends Error {}

/**
 * Reads a request's body up to a limit, whether or not it says how long it is. What goes beyond is
 * not held and not waited for long: the connection ends soon after the answer.
 */
export function readBounded(event: H3Event, limitBytes: number): Promise<Buffer> {
  const request = event.node.req
  const refused = (): BodyTooLarge => {
    setResponseHeader(event, 'connection', 'close')
    return new BodyTooLarge()
  }
  if (Number(getRequestHeader(event, 'content-length') ?? 0) > limitBytes)
    return Promise.reject(refused())
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = []
    let length = 0
    const stop = (): void => {
      request.off('data', take).off('end', finish).off('error', fail).off('close', cutOff)
    }
    const take = (chunk: Buffer): void => {
      length += chunk.length
      if (length <= limitBytes) return void chunks.push(chunk)
      stop()
      // Let go by unread for a moment, since a sender that is cut off at once never sees the answer.
      request.resume()
      setTimeout(() => request.destroy(), letGoMilliseconds).unref()
      reject(refused())
    }
    const finish = (): void => {
      stop()
      resolve(Buffer.concat(chunks))
    }
    const fail = (error: Error): void => {
      stop()
      reject(error)
    }
    const cutOff = (): void => fail(new Error('The request was cut off.'))
    request.on('data', take).on('end', finish).on('error', fail).on('close', cutOff)
  })
}
