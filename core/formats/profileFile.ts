import { profileSchema } from '../show'
import { partFile } from './partFile'

export const profileFileVersion = 1
export const profileFileExtension = '.profile.json'

/** A destination profile as a file, to be written and traded; it never holds a key. */
const file = partFile({
  format: 'green-mantle-destination-profile',
  version: profileFileVersion,
  name: 'profile',
  title: 'A Green Mantle destination profile',
  limitBytes: 400_000,
  schema: profileSchema,
})

export const profileFileJsonSchema = file.jsonSchema
export const writeProfileFile = file.write
export const readProfileFile = file.read
