import { createError, type H3Event } from 'h3'
import { BodyTooLarge, readBounded } from '../../http/readBounded'

const limitBytes = 10_000

/** The fields of a form that was sent (application/x-www-form-urlencoded), each once. */
export async function readForm(event: H3Event): Promise<Record<string, string>> {
  try {
    const text = (await readBounded(event, limitBytes)).toString('utf8')
    return Object.fromEntries(new URLSearchParams(text))
  } catch (error) {
    if (!(error instanceof BodyTooLarge)) throw error
    throw createError({ statusCode: 413, statusMessage: 'The form is too large' })
  }
}
