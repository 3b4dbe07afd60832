import { showFileLimitBytes } from '@green-mantle/core/formats'
import { type Show, showSchema } from '@green-mantle/core/show'
import { getRequestHeader, getRouterParam, type H3Event } from 'h3'
import { useDatabase } from '../database/connection'
import { readShow } from '../database/shows/showStore'
import { ProblemError } from './problem'
import { readJsonBody } from './readJsonBody'

export const showNotFound = (): ProblemError =>
  new ProblemError({
    status: 404,
    title: 'There is no such show',
    detail: 'It may have been deleted; Home lists the shows there are.',
  })

export function showIdOf(event: H3Event): string {
  const id = getRouterParam(event, 'id') ?? ''
  if (!/^[A-Za-z0-9_-]{1,40}$/.test(id)) throw showNotFound()
  return id
}

/** A show as it was last saved; a 404 where there is none. */
export async function readStoredShow(showId: string): Promise<Show> {
  const stored = await readShow(await useDatabase(), showId)
  if (!stored) throw showNotFound()
  return stored.show
}

/** Reads and checks the show in a request's body. */
export const readShowBody = (event: H3Event): Promise<Show> =>
  readJsonBody(event, { name: 'A show', limitBytes: showFileLimitBytes, schema: showSchema })

/** The revision that a save was edited from, out of `If-Match: "7"`. */
export function revisionOf(event: H3Event): number {
  const match = /^"(\d{1,9})"$/.exec(getRequestHeader(event, 'if-match') ?? '')
  if (!match)
    throw new ProblemError({
      status: 428,
      title: 'A save has to name the revision it was edited from',
      detail: 'Send it as If-Match: "7". Nothing was saved.',
    })
  return Number(match[1])
}

/** Whether who asks has this revision already: `If-None-Match: "7"`. */
export const hasRevision = (event: H3Event, revision: number): boolean =>
  getRequestHeader(event, 'if-none-match') === entityTag(revision)

export const entityTag = (revision: number): string => `"${revision}"`
