import { type Dressing, dressingSchema } from '../show'
import { partFileJsonSchema, readPart, writePart } from './partFile'

export const dressingFileVersion = 1
export const dressingFileExtension = '.dressing.json'

const head = {
  format: 'green-mantle-dressing',
  version: dressingFileVersion,
  name: 'dressing',
} as const
const kind = {
  head,
  title: 'A Green Mantle dressing file',
  limitBytes: 100_000,
  schema: dressingSchema,
}

export const dressingFileJsonSchema = (): object => partFileJsonSchema(kind)
export const writeDressingFile = (dressing: Dressing): string => writePart(head, dressing)
export const readDressingFile = (text: string) => readPart(kind, text)
