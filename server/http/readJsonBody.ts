import { illFormedTexts, mayBeIllFormed, nestsDeeper, problemsFrom } from '@green-mantle/core/show'
import { getRequestHeader, type H3Event } from 'h3'
import type { z } from 'zod'
import { ProblemError } from './problem'
import { BodyTooLarge, readBounded } from './readBounded'

/** How a request's body is read: what it is called in a refusal, its limit and the schema it has to keep. */
interface BodyOptions<Schema extends z.ZodType> {
  /** With its article, to begin a sentence: "A show". */
  name: string
  limitBytes: number
  schema: Schema
}

/** Reads and checks the JSON of a request's body. */
export async function readJsonBody<Schema extends z.ZodType>(
  event: H3Event,
  { name, limitBytes, schema }: BodyOptions<Schema>,
): Promise<z.output<Schema>> {
  const tooLarge = (): ProblemError =>
    new ProblemError({
      status: 413,
      title: `${name} is not that large`,
      detail: `At most ${limitBytes / 1_000_000} MB are taken. Nothing was saved.`,
    })
  if (!getRequestHeader(event, 'content-type')?.startsWith('application/json'))
    throw new ProblemError({
      status: 415,
      title: `${name} is sent as application/json`,
      detail: 'Nothing was saved.',
    })
  const body = await readBounded(event, limitBytes).catch((error: unknown) => {
    throw error instanceof BodyTooLarge ? tooLarge() : error
  })
  if (nestsDeeper(body))
    throw new ProblemError({
      status: 422,
      title: `${name} breaks its schema`,
      detail: 'Its brackets are nested deeper than in anything of ours. Nothing was saved.',
    })
  const text = body.toString('utf8')
  const value = parsedJson(text)
  const illFormed = mayBeIllFormed(text) ? illFormedTexts(value) : []
  const checked = schema.safeParse(value)
  if (checked.success && illFormed.length === 0) return checked.data
  const problems = illFormed.length > 0 ? illFormed : problemsFrom(checked.error as z.ZodError)
  throw new ProblemError({
    status: 422,
    title: `${name} breaks its schema`,
    detail: `${problems[0]?.place}: ${problems[0]?.message}. Nothing was saved.`,
    problems: problems.slice(0, 50),
  })
}

function parsedJson(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    throw new ProblemError({
      status: 400,
      title: 'The request is not JSON',
      // What V8 says of broken JSON quotes it, and a body may hold a key.
      detail: 'It is cut off or damaged. Nothing was saved.',
    })
  }
}
