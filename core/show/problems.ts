import type { z } from 'zod'

/** One thing wrong with a piece of data: where it stands, as in `scenes[2].layers[0].landscape.width`, and what is wrong. */
export interface Problem {
  place: string
  message: string
}

/** Nothing of ours is nested so deeply; of what is, the beginning says where to look. */
const maxSteps = 20

/** The path of a value as a person reads it. */
export function placeInWords(path: readonly PropertyKey[]): string {
  const place = path.slice(0, maxSteps).reduce<string>((before, step) => {
    if (typeof step === 'number') return `${before}[${step}]`
    return before === '' ? String(step) : `${before}.${String(step)}`
  }, '')
  return path.length > maxSteps ? `${place} …` : place
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

/** Something within a piece of JSON, and where. */
interface Within {
  value: unknown
  /** Of the piece itself there is none. */
  step?: PropertyKey
  around?: Within
}

function pathOf(within: Within): PropertyKey[] {
  const path: PropertyKey[] = []
  for (let at: Within | undefined = within; at?.step !== undefined; at = at.around)
    path.push(at.step)
  return path.reverse()
}

/**
 * The texts in a piece of JSON that hold half a character, by their places. It may be nested as deeply as
 * it likes, as whoever sends it may too.
 */
export function illFormedTexts(value: unknown): Problem[] {
  const problems: Problem[] = []
  const left: Within[] = [{ value }]
  for (let at = left.pop(); at; at = left.pop()) {
    const isIllFormed =
      (typeof at.step === 'string' && loneSurrogate.test(at.step)) ||
      (typeof at.value === 'string' && loneSurrogate.test(at.value))
    if (isIllFormed)
      problems.push({
        place: placeInWords(pathOf(at)) || 'the whole file',
        message: 'this text holds half a character (a lone surrogate)',
      })
    if (typeof at.value !== 'object' || at.value === null) continue
    const items: [PropertyKey, unknown][] = Array.isArray(at.value)
      ? [...at.value.entries()]
      : Object.entries(at.value)
    // The last one is taken first.
    for (const [step, item] of items.reverse()) left.push({ value: item, step, around: at })
  }
  return problems
}
