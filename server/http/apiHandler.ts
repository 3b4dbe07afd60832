import { defineEventHandler, type H3Event, setResponseHeaders, setResponseStatus } from 'h3'
import { problemFrom } from './problem'
import { withDeadline } from './deadline'

/** Longer than anything takes that is not stuck. */
const defaultDeadlineSeconds = 60

/** A route whose every failure is answered as `application/problem+json`, and that always answers in time. */
export function apiHandler<Answer>(
  handle: (event: H3Event) => Promise<Answer>,
  { deadlineSeconds = defaultDeadlineSeconds } = {},
) {
  return defineEventHandler(async (event) => {
    setResponseHeaders(event, {
      'cache-control': 'no-store',
      'cross-origin-resource-policy': 'same-origin',
    })
    try {
      return await withDeadline(handle(event), deadlineSeconds)
    } catch (error) {
      const { details, headers } = problemFrom(error)
      setResponseStatus(event, details.status)
      setResponseHeaders(event, { 'content-type': 'application/problem+json', ...headers })
      return JSON.stringify({ type: 'about:blank', ...details })
    }
  })
}
