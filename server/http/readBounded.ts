import { getRequestHeader, type H3Event, setResponseHeader } from 'h3'

/** So long the rest of a body that is too large is let go by before the answer is given. */
const letGoMilliseconds = 3000

/** Thrown where a body is longer than may be; the rest of it is not held. */
export class BodyTooLarge extends Error {}

/**
 * Reads a request's body up to a limit, whether or not it says how long it is. What goes beyond is
 * let go by unread, since a sender that is answered and cut off while it still sends sees a broken
 * connection in place of the answer; but not for long, and then the connection ends.
 */
export function readBounded(event: H3Event, limitBytes: number): Promise<Buffer> {
  const request = event.node.req
  const isTooLong = Number(getRequestHeader(event, 'content-length') ?? 0) > limitBytes
  return new Promise((resolve, reject) => {
    const chunks: Buffer[] = []
    let length = 0
    let deadline: NodeJS.Timeout | null = null
    const stop = (): void => {
      if (deadline) clearTimeout(deadline)
      request.off('data', take).off('end', finish).off('error', fail).off('close', cutOff)
    }
    const refuse = (): void => {
      stop()
      setResponseHeader(event, 'connection', 'close')
      reject(new BodyTooLarge())
    }
    const refuseAtLast = (): void => {
      refuse()
      request.resume()
      setTimeout(() => request.destroy(), letGoMilliseconds).unref()
    }
    const letGo = (): void => {
      chunks.length = 0
      deadline ??= setTimeout(refuseAtLast, letGoMilliseconds).unref()
    }
    const take = (chunk: Buffer): void => {
      length += chunk.length
      if (isTooLong || length > limitBytes) letGo()
      else chunks.push(chunk)
    }
    const finish = (): void => {
      if (deadline) return refuse()
      stop()
      resolve(Buffer.concat(chunks))
    }
    const fail = (error: Error): void => {
      stop()
      reject(error)
    }
    const cutOff = (): void => fail(new Error('The request was cut off.'))
    if (isTooLong) letGo()
    request.on('data', take).on('end', finish).on('error', fail).on('close', cutOff)
  })
}
