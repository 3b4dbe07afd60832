import { z } from 'zod'
import { type Dressing, dressingSchema, problemsFrom } from '../show'
import { failure, type JsonFileFailure, readJson } from './jsonFile'

export const dressingFileFormat = 'green-mantle-dressing'
export const dressingFileVersion = 1
export const dressingFileExtension = '.dressing.json'
const limitBytes = 100_000

const dressingFileShape = z.strictObject({
  $schema: z.string().optional(),
  format: z.literal(dressingFileFormat),
  version: z.literal(dressingFileVersion),
  dressing: dressingSchema,
})

/** The JSON Schema (2020-12) of a dressing file. */
export function dressingFileJsonSchema(): object {
  return {
    ...z.toJSONSchema(dressingFileShape, { target: 'draft-2020-12' }),
    title: 'A Green Mantle dressing file',
  }
}

/** A dressing as the text of an open JSON file (RFC 8259). */
export function writeDressingFile(dressing: Dressing): string {
  const file = { format: dressingFileFormat, version: dressingFileVersion, dressing }
  return `${JSON.stringify(file, null, 2)}\n`
}

/** Reads a dressing file. Never throws: what is wrong is described, place by place. */
export function readDressingFile(text: string): { ok: true; value: Dressing } | JsonFileFailure {
  const json = readJson(text, limitBytes)
  if (!json.ok) return json
  const head = z.object({ format: z.string(), version: z.number() }).safeParse(json.value)
  if (!head.success || head.data.format !== dressingFileFormat)
    return failure('of another kind', 'format', `"format" has to be "${dressingFileFormat}"`)
  if (head.data.version > dressingFileVersion)
    return failure(
      'too new',
      'version',
      `this is version ${head.data.version}; versions up to ${dressingFileVersion} can be read here`,
    )
  const file = dressingFileShape.safeParse(json.value)
  return file.success
    ? { ok: true, value: file.data.dressing }
    : { ok: false, reason: 'breaks the schema', problems: problemsFrom(file.error) }
}
