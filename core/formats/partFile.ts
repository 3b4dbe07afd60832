import { z } from 'zod'
import { problemsFrom } from '../show'
import { failure, type JsonFileFailure, readJson } from './jsonFile'

/** What stands at the head of an open JSON file that holds one part, and under which name the part. */
interface PartFileHead {
  format: string
  version: number
  name: string
}

/** A kind of such files: a dressing, a destination profile. */
interface PartFile<Schema extends z.ZodType> {
  head: PartFileHead
  title: string
  limitBytes: number
  schema: Schema
}

const shapeOf = ({ head: { format, version, name }, schema }: PartFile<z.ZodType>) =>
  z.strictObject({
    $schema: z.string().optional(),
    format: z.literal(format),
    version: z.literal(version),
    [name]: schema,
  })

/** The JSON Schema (2020-12) of such a file. */
export const partFileJsonSchema = (kind: PartFile<z.ZodType>): object => ({
  ...z.toJSONSchema(shapeOf(kind), { target: 'draft-2020-12' }),
  title: kind.title,
})

/** A part as the text of a file (RFC 8259); asks for no schema, so that a page can write without one. */
export const writePart = ({ format, version, name }: PartFileHead, part: unknown): string =>
  `${JSON.stringify({ format, version, [name]: part }, null, 2)}\n`

/** Never throws: what is wrong is described, place by place. */
export function readPart<Schema extends z.ZodType>(
  kind: PartFile<Schema>,
  text: string,
): { ok: true; value: z.output<Schema> } | JsonFileFailure {
  const { format, version, name } = kind.head
  const json = readJson(text, kind.limitBytes)
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
  const file = shapeOf(kind).safeParse(json.value)
  return file.success
    ? { ok: true, value: file.data[name] as z.output<Schema> }
    : { ok: false, reason: 'breaks the schema', problems: problemsFrom(file.error) }
}
