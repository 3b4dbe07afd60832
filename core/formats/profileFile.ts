import { type Profile, profileSchema } from '../show'
import { partFileJsonSchema, readPart, writePart } from './partFile'

export const profileFileVersion = 1
export const profileFileExtension = '.profile.json'

const head = {
  format: 'green-mantle-destination-profile',
  version: profileFileVersion,
  name: 'profile',
} as const
/** A destination profile as a file, to be written and traded; it never holds a key. */
const kind = {
  head,
  title: 'A Green Mantle destination profile',
  limitBytes: 400_000,
  schema: profileSchema,
}

export const profileFileJsonSchema = (): object => partFileJsonSchema(kind)
export const writeProfileFile = (profile: Profile): string => writePart(head, profile)
export const readProfileFile = (text: string) => readPart(kind, text)
