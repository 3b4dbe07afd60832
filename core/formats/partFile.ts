import { z } from 'zod'
import { problemsFrom } from '../show'
import { failure, type JsonFileFailure, readJson } from './jsonFile'

/** An open JSON file that holds one part, under the part's name: a dressing, a destination profile. */
interface PartFile<Part> {
  /** The JSON Schema (2020-12) of such a file. */
  jsonSchema(): object
  /** The part as the text of a file (RFC 8259). */
  write(part: Part): string
  /** Never throws: what is wrong is described, place by place. */
  read(text: string): { ok: true; value: Part } | JsonFileFailure
}

export function partFile<Schema extends z.ZodType>(options: {
  format: string
  version: number
  name: string
  title: string
  limitBytes: number
  schema: Schema
}): PartFile<z.output<Schema>> {
  const { format, version, name, title, limitBytes, schema } = options
  const shape = z.strictObject({
    $schema: z.string().optional(),
    format: z.literal(format),
    version: z.literal(version),
    [name]: schema,
  })
  return {
    jsonSchema: () => ({ ...z.toJSONSchema(shape, { target: 'draft-2020-12' }), title }),
    write: (part) => `${JSON.stringify({ format, version, [name]: part }, null, 2)}\n`,
    read(text) {
      const json = readJson(text, limitBytes)
      if (!json.ok) return json
      const head = z.object({ format: z.string(), version: z.number() }).safeParse(json.value)
      if (!head.success || head.data.format !== format)
        return failure('of another kind', 'format', `"format" has to be "${format}"`)
      if (head.data.version > version)
        return failure(
          'too new',
          'version',
          `this is version ${head.data.version}; versions up to ${version} can be read here`,
        )
      const file = shape.safeParse(json.value)
      return file.success
        ? { ok: true, value: file.data[name] as z.output<Schema> }
        : { ok: false, reason: 'breaks the schema', problems: problemsFrom(file.error) }
    },
  }
}
