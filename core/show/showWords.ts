import { z } from 'zod'
import { shortTextSchema } from './identifier'
import { fileIdSchema } from './source'

export const audiences = ['public', 'unlisted', 'followers', 'practice'] as const
export type Audience = (typeof audiences)[number]

const tagsSchema = z.array(shortTextSchema.min(1)).max(100)
const descriptionSchema = z.string().max(20_000)
/** A language tag (BCP 47), as in en or pt-BR; empty where none is given. */
const languageTag = /^([A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*)?$/
export const isLanguageTag = (text: string): boolean => languageTag.test(text)
const languageSchema = z.string().regex(languageTag, 'a language tag such as en')

/** The picture that stands for the show before it is watched, cut to one shape. */
export const thumbnailSchema = z.strictObject({
  fileId: fileIdSchema,
  fileName: shortTextSchema,
  width: z.int().min(1).max(16384),
  height: z.int().min(1).max(16384),
  byteCount: z.int().min(1),
})
export type Thumbnail = z.infer<typeof thumbnailSchema>

/** A wall-clock time in the show's time zone, as in 2026-12-12T21:00. */
export const wallClockSchema = z
  .string()
  .regex(/^\d{4}-(0\d|1[0-2])-([0-2]\d|3[01])T([01]\d|2[0-3]):[0-5]\d$/)

export const showWordsSchema = z.strictObject({
  description: descriptionSchema,
  category: shortTextSchema,
  tags: tagsSchema,
  language: languageSchema,
  audience: z.enum(audiences),
  thumbnail: thumbnailSchema.nullable(),
})
/** What is said of the show where it can be watched, written once; its title is the show's own. */
export type ShowWords = z.infer<typeof showWordsSchema>

export const ownWordsSchema = z.strictObject({
  title: shortTextSchema.nullable(),
  description: descriptionSchema.nullable(),
  category: shortTextSchema.nullable(),
  tags: tagsSchema.nullable(),
  language: languageSchema.nullable(),
  audience: z.enum(audiences).nullable(),
  thumbnail: thumbnailSchema.nullable(),
  /** When viewers are told it begins. */
  scheduledAt: wallClockSchema.nullable(),
})
/** Where one destination says something else than the show does; null takes the show's. */
export type OwnWords = z.infer<typeof ownWordsSchema>

export const noOwnWords: OwnWords = {
  title: null,
  description: null,
  category: null,
  tags: null,
  language: null,
  audience: null,
  thumbnail: null,
  scheduledAt: null,
}

/** What a text's length is counted in. */
export const countedIn = ['characters', 'code points', 'UTF-16 units', 'UTF-8 bytes'] as const
export type CountedIn = (typeof countedIn)[number]

export const wordRulesSchema = z.strictObject({
  countedIn: z.enum(countedIn),
  mostTitle: z.int().min(1).max(10_000).nullable(),
  mostDescription: z.int().min(1).max(100_000).nullable(),
  mostTags: z.int().min(0).max(100).nullable(),
  mostTagLength: z.int().min(1).max(200).nullable(),
  audiences: z.array(z.enum(audiences)).min(1).max(4),
  /** null where it takes none. */
  thumbnail: z
    .strictObject({
      ratioWidth: z.int().min(1).max(100),
      ratioHeight: z.int().min(1).max(100),
      leastWidth: z.int().min(1).max(16384),
      mostBytes: z.int().min(1000).max(100_000_000),
    })
    .nullable(),
})
/** What a destination takes by way of title, description, tags and thumbnail. */
export type WordRules = z.infer<typeof wordRulesSchema>
