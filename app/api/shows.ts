import type { Show, ShowSummary } from '@green-mantle/core/show'
import { ApiProblem } from './problem'

async function ask(path: string, init: RequestInit = {}): Promise<Response> {
  let response: Response
  try {
    response = await fetch(`/api/shows${path}`, init)
  } catch {
    throw new ApiProblem(0, 'The server does not answer', 'Nothing is lost; it is tried again.')
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

function withBody(method: string, show: Show, headers: Record<string, string> = {}): RequestInit {
  return {
    method,
    headers: { 'content-type': 'application/json', ...headers },
    body: JSON.stringify(show),
  }
}

const revisionFrom = (response: Response): number =>
  Number(/^"(\d+)"$/.exec(response.headers.get('etag') ?? '')?.[1])

export interface StoredShow {
  show: Show
  revision: number
}

export async function fetchShows(): Promise<ShowSummary[]> {
  return (await ask('')).json() as Promise<ShowSummary[]>
}

export async function fetchShow(id: string): Promise<StoredShow> {
  const response = await ask(`/${id}`)
  return { show: (await response.json()) as Show, revision: revisionFrom(response) }
}

export async function createShow(show: Show): Promise<ShowSummary> {
  return (await ask('', withBody('POST', show))).json() as Promise<ShowSummary>
}

/** Saves what was edited from `revision` and gives the new one; a 412 carries the show as it is now. */
export async function saveShow(id: string, revision: number, show: Show): Promise<number> {
  return revisionFrom(await ask(`/${id}`, withBody('PUT', show, { 'if-match': `"${revision}"` })))
}

export async function deleteShow(id: string): Promise<void> {
  await ask(`/${id}`, { method: 'DELETE' })
}

export async function restoreShow(id: string): Promise<void> {
  await ask(`/${id}/restore`, { method: 'POST' })
}

/** The show as it is now, out of a 412. */
export function currentFrom(problem: ApiProblem): StoredShow {
  return problem.extensions.current as StoredShow
}
