import type { z } from 'zod'

/** One thing wrong with a piece of data: where it stands, as in `scenes[2].layers[0].landscape.width`, and what is wrong. */
export interface Problem {
  place: string
  message: string
}

/** The path of a value as a person reads it. */
export function placeInWords(path: readonly PropertyKey[]): string {
  return path.reduce<string>((place, step) => {
    if (typeof step === 'number') return `${place}[${step}]`
    return place === '' ? String(step) : `${place}.${String(step)}`
  }, '')
}

/** What a schema found wrong, one entry a place, in the order found. */
export function problemsFrom(error: z.ZodError): Problem[] {
  return error.issues.map((issue) => ({
    place: placeInWords(issue.path) || 'the whole file',
    message: issue.message,
  }))
}

/** Half of a pair that UTF-16 writes one character with: no text by itself, and stored as another character. */
const loneSurrogate = /\p{Surrogate}/u

/** Any half, in a pair or not; told without reading characters, which is ten times as quick. */
const anySurrogate = /[\ud800-\udfff]/

/** Whether the text of a piece of JSON could hold half a character at all, which is soon told. */
export const mayBeIllFormed = (json: string): boolean =>
  (anySurrogate.test(json) && loneSurrogate.test(json)) ||
  (json.includes('\\u') && /\\u[dD][89a-fA-F]/.test(json))

/** The texts in a piece of JSON that hold half a character, by their places. */
export function illFormedTexts(value: unknown, path: readonly PropertyKey[] = []): Problem[] {
  const problem = (): Problem => ({
    place: placeInWords(path) || 'the whole file',
    message: 'this text holds half a character (a lone surrogate)',
  })
  if (typeof value === 'string') return loneSurrogate.test(value) ? [problem()] : []
  if (Array.isArray(value))
    return value.flatMap((item, index) => illFormedTexts(item, [...path, index]))
  if (typeof value !== 'object' || value === null) return []
  return Object.entries(value).flatMap(([name, item]) => [
    ...(loneSurrogate.test(name) ? [problem()] : []),
    ...illFormedTexts(item, [...path, name]),
  ])
}
