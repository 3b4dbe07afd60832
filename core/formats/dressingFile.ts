import { dressingSchema } from '../show'
import { partFile } from './partFile'

export const dressingFileVersion = 1
export const dressingFileExtension = '.dressing.json'

const file = partFile({
  format: 'green-mantle-dressing',
  version: dressingFileVersion,
  name: 'dressing',
  title: 'A Green Mantle dressing file',
  limitBytes: 100_000,
  schema: dressingSchema,
})

export const dressingFileJsonSchema = file.jsonSchema
export const writeDressingFile = file.write
export const readDressingFile = file.read
