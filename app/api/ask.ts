import { ApiProblem } from './problem'

/** Asks our server; whatever it refuses is thrown as it describes it. */
export async function ask(
  path: string,
  init: RequestInit = {},
  unanswered = 'Try again in a moment.',
): Promise<Response> {
  let response: Response
  try {
    response = await fetch(`/api${path}`, init)
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error
    throw new ApiProblem(0, 'The server does not answer', unanswered)
  }
  if (response.ok) return response
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
): RequestInit => ({
  method,
  headers: { 'content-type': 'application/json', ...headers },
  body: JSON.stringify(body),
})
