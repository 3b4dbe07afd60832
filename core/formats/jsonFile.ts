import { parse, type ParseError, printParseErrorCode } from 'jsonc-parser'
import { illFormedTexts, mayBeIllFormed, type Problem } from '../show'

/** Why a file was not taken, place by place. */
export interface JsonFileFailure {
  ok: false
  reason: 'damaged' | 'of another kind' | 'too new' | 'too large' | 'breaks the schema'
  problems: Problem[]
}

export const failure = (
  reason: JsonFileFailure['reason'],
  place: string,
  message: string,
): JsonFileFailure => ({ ok: false, reason, problems: [{ place, message }] })

function lineAndColumn(text: string, offset: number): string {
  const before = text.slice(0, offset)
  const line = before.split('\n').length
  return `line ${line}, column ${offset - before.lastIndexOf('\n')}`
}

/** "PropertyNameExpected" → "property name expected". */
const syntaxErrorInWords = (error: ParseError): string =>
  printParseErrorCode(error.error)
    .replace(/([A-Z])/g, ' $1')
    .trim()
    .toLowerCase()

/** Bytes of the text in UTF-8, counted without the encoder of a browser or of Node. */
function utf8Bytes(text: string): number {
  let bytes = 0
  for (const character of text) {
    const codePoint = character.codePointAt(0) as number
    bytes += codePoint < 0x80 ? 1 : codePoint < 0x800 ? 2 : codePoint < 0x10000 ? 3 : 4
  }
  return bytes
}

/** Parses JSON of at most so many bytes; what is too large or damaged is said, with line and column. */
export function readJson(
  text: string,
  limitBytes: number,
): { ok: true; value: unknown } | JsonFileFailure {
  // Cheap before exact: a character is at least one byte.
  if (text.length > limitBytes || utf8Bytes(text) > limitBytes)
    return failure(
      'too large',
      'the whole file',
      `such a file has at most ${limitBytes / 1_000_000} MB`,
    )
  try {
    const value: unknown = JSON.parse(text)
    const problems = mayBeIllFormed(text) ? illFormedTexts(value) : []
    return problems.length === 0
      ? { ok: true, value }
      : { ok: false, reason: 'breaks the schema', problems }
  } catch {
    return damageOf(text)
  }
}

/** Where a text is no JSON, and why. */
function damageOf(text: string): JsonFileFailure {
  const errors: ParseError[] = []
  try {
    parse(text, errors, { disallowComments: true, allowTrailingComma: false })
  } catch (error) {
    // One call within the other for each bracket, until there is no room for more.
    if (error instanceof RangeError)
      return failure('damaged', 'the whole file', 'too many brackets stand within each other')
    throw error
  }
  const [first] = errors
  return first
    ? failure('damaged', lineAndColumn(text, first.offset), syntaxErrorInWords(first))
    : failure('damaged', 'the whole file', 'this is not JSON')
}
