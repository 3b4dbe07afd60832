import { defineEventHandler, type H3Event, setResponseHeaders, setResponseStatus } from 'h3'
import { problemFrom } from './problem'

/** A route whose every failure is answered as `application/problem+json`. */
export function apiHandler<Answer>(handle: (event: H3Event) => Promise<Answer>) {
  return defineEventHandler(async (event) => {
    setResponseHeaders(event, {
      'cache-control': 'no-store',
      'cross-origin-resource-policy': 'same-origin',
    })
    try {
      return await handle(event)
    } catch (error) {
      const { details, headers } = problemFrom(error)
      setResponseStatus(event, details.status)
      setResponseHeaders(event, { 'content-type': 'application/problem+json', ...headers })
      return JSON.stringify({ type: 'about:blank', ...details })
    }
  })
}
