import { showFileLimitBytes } from '@green-mantle/core/formats'
import { problemsFrom, type Show, showSchema } from '@green-mantle/core/show'
import { getRequestHeader, getRouterParam, type H3Event, readRawBody } from 'h3'
import { ProblemError } from './problem'

export const showNotFound = (): ProblemError =>
  new ProblemError({
    status: 404,
    title: 'There is no such show',
    detail: 'It may have been deleted; Home lists the shows there are.',
  })

const tooLarge = (): ProblemError =>
  new ProblemError({
    status: 413,
    title: 'The show is too large',
    detail: `A show may have at most ${showFileLimitBytes / 1_000_000} MB. Nothing was saved.`,
  })

export function showIdOf(event: H3Event): string {
  const id = getRouterParam(event, 'id') ?? ''
  if (!/^[A-Za-z0-9_-]{1,40}$/.test(id)) throw showNotFound()
  return id
}

/** Reads and checks the show in a request's body. */
export async function readShowBody(event: H3Event): Promise<Show> {
  if (Number(getRequestHeader(event, 'content-length') ?? 0) > showFileLimitBytes) throw tooLarge()
  if (!getRequestHeader(event, 'content-type')?.startsWith('application/json'))
    throw new ProblemError({
      status: 415,
      title: 'A show is sent as application/json',
      detail: 'Nothing was saved.',
    })
  const text = (await readRawBody(event, 'utf8')) ?? ''
  if (Buffer.byteLength(text) > showFileLimitBytes) throw tooLarge()
  let body: unknown
  try {
    body = JSON.parse(text)
  } catch (error) {
    throw new ProblemError({
      status: 400,
      title: 'The request is not JSON',
      detail: `${(error as Error).message}. Nothing was saved.`,
    })
  }
  const checked = showSchema.safeParse(body)
  if (!checked.success) {
    const problems = problemsFrom(checked.error)
    throw new ProblemError({
      status: 422,
      title: 'The show breaks its schema',
      detail: `${problems[0]?.place}: ${problems[0]?.message}. Nothing was saved.`,
      problems: problems.slice(0, 50),
    })
  }
  return checked.data
}

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

export const entityTag = (revision: number): string => `"${revision}"`
