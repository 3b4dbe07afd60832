import { ApiProblem } from './problem'

/** What only a page of the application's own says; a request that changes something is refused without it. */
const fromThePage = { 'x-green-mantle': 'page' } as const

/** Headers as a plain list of names, so that ours can stand beside them. */
export type Asking = RequestInit & { headers?: Record<string, string> }

/** Asks our server; whatever it refuses is thrown as it describes it. */
export async function ask(
  path: string,
  init: Asking = {},
  unanswered = 'Try again in a moment.',
): Promise<Response> {
  let response: Response
  try {
    response = await fetch(`/api${path}`, { ...init, headers: { ...fromThePage, ...init.headers } })
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error
    throw new ApiProblem(0, 'The server does not answer', unanswered)
  }
  if (response.ok || response.status === 304) return response
  const body = (await response.json().catch(() => ({}))) as Record<string, unknown>
  throw new ApiProblem(
    response.status,
    String(body.title ?? 'The server refused'),
    String(body.detail ?? `It answered ${response.status}.`),
    body,
  )
}

/** A request with a JSON body. */
export const withJson = (
  method: string,
  body: unknown,
  headers: Record<string, string> = {},
): Asking => ({
  method,
  headers: { 'content-type': 'application/json', ...headers },
  body: JSON.stringify(body),
})
