import { z } from 'zod'
import { problemsFrom, type Show, showSchema, showShape } from '../show'
import { failure, type JsonFileFailure, readJson } from './jsonFile'
import { upgradedShow } from './showFileUpgrade'

export const showFileFormat = 'green-mantle-show'
/** Raised when the shape of the file changes; older files are then brought up to date on reading. */
export const showFileVersion = 12
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

/** A show as the text of an open JSON file (RFC 8259), to be read by people or, with no indent, short. */
export function writeShowFile(show: Show, indent = 2): string {
  return `${JSON.stringify({ format: showFileFormat, version: showFileVersion, show }, null, indent)}\n`
}

export type ReadShowResult = { ok: true; show: Show } | JsonFileFailure

/**
 * Reads a show file. Never throws: a file that is damaged, of another kind, of a newer version, too
 * large or against the schema is described, place by place.
 */
export function readShowFile(text: string): ReadShowResult {
  const json = readJson(text, showFileLimitBytes)
  if (!json.ok) return json
  const head = z
    .object({ format: z.string(), version: z.int().min(1), show: z.unknown() })
    .safeParse(json.value)
  if (!head.success || head.data.format !== showFileFormat)
    return failure('of another kind', 'format', `"format" has to be "${showFileFormat}"`)
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
