import { getRouterParam, type H3Event } from 'h3'
import { z } from 'zod'
import { ProblemError } from './problem'

/** A key as it is pasted: no spaces or control characters, which never belong to one. */
export const keyBodySchema = z.strictObject({
  key: z
    .string('a key is text')
    .trim()
    .min(1, 'there is nothing in it')
    .max(1000, 'a key has at most 1000 characters')
    .regex(/^[\x21-\x7E]*$/, 'a key has no spaces and only plain characters'),
})

export function destinationIdOf(event: H3Event): string {
  const id = getRouterParam(event, 'destinationId') ?? ''
  if (!/^[A-Za-z0-9_-]{1,40}$/.test(id)) throw keyNotFound()
  return id
}

export const keyNotFound = (): ProblemError =>
  new ProblemError({
    status: 404,
    title: 'There is no key here',
    detail: 'Paste it from the destination’s own page.',
  })

export const destinationNotFound = (): ProblemError =>
  new ProblemError({
    status: 404,
    title: 'The show has no such destination',
    detail: 'It was removed, or is not saved yet. The key was not kept; paste it again.',
  })
