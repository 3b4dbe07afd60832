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
