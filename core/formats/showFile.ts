import { parse, type ParseError, printParseErrorCode } from 'jsonc-parser'
import { z } from 'zod'
import { type Problem, problemsFrom, type Show, showSchema, showShape } from '../show'
import { upgradedShow } from './showFileUpgrade'

export const showFileFormat = 'green-mantle-show'
/** Raised when the shape of the file changes; older files are then brought up to date on reading. */
export const showFileVersion = 2
export const showFileLimitBytes = 4_000_000
export const showFileExtension = '.show.json'

const showFileShape = z.strictObject({
  $schema: z.string().optional(),
  format: z.literal(showFileFormat),
  version: z.literal(showFileVersion),
  show: showShape,
})

/** The JSON Schema (2020-12) of a show file, written from the schemas that the application itself checks with. */
export function showFileJsonSchema(): object {
  return {
    ...z.toJSONSchema(showFileShape, { target: 'draft-2020-12' }),
    title: 'A Green Mantle show file',
  }
}

/** A show as the text of an open JSON file (RFC 8259). */
export function writeShowFile(show: Show): string {
  return `${JSON.stringify({ format: showFileFormat, version: showFileVersion, show }, null, 2)}\n`
}

export type ReadShowResult =
  | { ok: true; show: Show }
  | {
      ok: false
      reason: 'damaged' | 'not a show' | 'too new' | 'too large' | 'breaks the schema'
      problems: Problem[]
    }

type Failure = Extract<ReadShowResult, { ok: false }>

const failure = (reason: Failure['reason'], place: string, message: string): Failure => ({
  ok: false,
  reason,
  problems: [{ place, message }],
})

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

function readJson(text: string): { ok: true; value: unknown } | Failure {
  try {
    return { ok: true, value: JSON.parse(text) }
  } catch {
    const errors: ParseError[] = []
    parse(text, errors, { disallowComments: true, allowTrailingComma: false })
    const [first] = errors
    return first
      ? failure('damaged', lineAndColumn(text, first.offset), syntaxErrorInWords(first))
      : failure('damaged', 'the whole file', 'this is not JSON')
  }
}

/** Bytes of the text in UTF-8, counted without the encoder of a browser or of Node. */
function utf8Bytes(text: string): number {
  let bytes = 0
  for (const character of text) {
    const codePoint = character.codePointAt(0) as number
    bytes += codePoint < 0x80 ? 1 : codePoint < 0x800 ? 2 : codePoint < 0x10000 ? 3 : 4
  }
  return bytes
}

/**
 * Reads a show file. Never throws: a file that is damaged, of another kind, of a newer version, too
 * large or against the schema is described, place by place.
 */
export function readShowFile(text: string): ReadShowResult {
  const limit = `${showFileLimitBytes / 1_000_000} MB`
  // Cheap before exact: a character is at least one byte.
  if (text.length > showFileLimitBytes || utf8Bytes(text) > showFileLimitBytes)
    return failure('too large', 'the whole file', `a show file has at most ${limit}`)
  const json = readJson(text)
  if (!json.ok) return json
  const head = z
    .object({ format: z.string(), version: z.int().min(1), show: z.unknown() })
    .safeParse(json.value)
  if (!head.success || head.data.format !== showFileFormat)
    return failure('not a show', 'format', `"format" has to be "${showFileFormat}"`)
  if (head.data.version > showFileVersion)
    return failure(
      'too new',
      'version',
      `this is version ${head.data.version}; versions up to ${showFileVersion} can be read here`,
    )
  const { version, show: content } = head.data
  const file = showFileShape.safeParse(
    version === showFileVersion
      ? json.value
      : {
          ...(json.value as object),
          version: showFileVersion,
          show: upgradedShow(content, version),
        },
  )
  if (!file.success)
    return { ok: false, reason: 'breaks the schema', problems: problemsFrom(file.error) }
  const show = showSchema.safeParse(file.data.show)
  if (!show.success)
    return {
      ok: false,
      reason: 'breaks the schema',
      problems: problemsFrom(show.error).map(({ place, message }) => ({
        place: `show.${place}`,
        message,
      })),
    }
  return { ok: true, show: show.data }
}
