import type { Show, ShowList, ShowSummary } from '@green-mantle/core/show'
import { ask, type Asking, withJson } from './ask'
import type { ApiProblem } from './problem'

const askShows = (path: string, init: Asking = {}): Promise<Response> =>
  ask(`/shows${path}`, init, 'Nothing is lost; it is tried again.')

const revisionFrom = (response: Response): number =>
  Number(/^"(\d+)"$/.exec(response.headers.get('etag') ?? '')?.[1])

export interface StoredShow {
  show: Show
  revision: number
}

/** A page of the shows, from the beginning or from where another left off. */
export async function fetchShows(after: string | null = null): Promise<ShowList> {
  const query = after === null ? '' : `?after=${encodeURIComponent(after)}`
  return (await askShows(query)).json() as Promise<ShowList>
}

export async function fetchShow(id: string): Promise<StoredShow> {
  const response = await askShows(`/${id}`)
  return { show: (await response.json()) as Show, revision: revisionFrom(response) }
}

/** The show where it was saved since `revision`; null where it was not. */
export async function fetchShowIfNewer(id: string, revision: number): Promise<StoredShow | null> {
  const response = await askShows(`/${id}`, { headers: { 'if-none-match': `"${revision}"` } })
  if (response.status === 304) return null
  return { show: (await response.json()) as Show, revision: revisionFrom(response) }
}

export async function createShow(show: Show): Promise<ShowSummary> {
  return (await askShows('', withJson('POST', show))).json() as Promise<ShowSummary>
}

/** Saves what was edited from `revision` and gives the new one; a 412 carries the show as it is now. */
export async function saveShow(id: string, revision: number, show: Show): Promise<number> {
  return revisionFrom(
    await askShows(`/${id}`, withJson('PUT', show, { 'if-match': `"${revision}"` })),
  )
}

export async function deleteShow(id: string): Promise<void> {
  await askShows(`/${id}`, { method: 'DELETE' })
}

export async function restoreShow(id: string): Promise<void> {
  await askShows(`/${id}/restore`, { method: 'POST' })
}

/** The show as it is now, out of a 412. */
export function currentFrom(problem: ApiProblem): StoredShow {
  return problem.extensions.current as StoredShow
}
