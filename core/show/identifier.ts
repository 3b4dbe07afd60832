import { z } from 'zod'

/** Names a part of a show inside that show: the same identifier may stand in another show. */
export const identifierSchema = z
  .string()
  .regex(/^[A-Za-z0-9_-]{1,40}$/, '1 to 40 letters, digits, dashes or underscores')

/** Makes a new identifier; the caller brings the randomness, since the core has none of its own. */
export type MakeIdentifier = () => string

/** A short plain text as a person types it: a name, a title, a note. */
export const shortTextSchema = z.string().max(200)
