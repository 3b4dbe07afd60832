import { z } from 'zod'
import { identifierSchema, shortTextSchema } from './identifier'
import { limitedIntegerSchema, limitedSchema } from './limits'
import { audioSampleRateSchema } from './rendition'

export const soundKinds = ['microphone', 'computer sound', 'music', 'own sound'] as const
export type SoundKind = (typeof soundKinds)[number]

/** The sound that goes out, and the sound kept for later. */
export const mixes = ['live', 'archive'] as const
export type Mix = (typeof mixes)[number]

export const levelLimitsDecibels = { min: -60, max: 20 } as const
export const delayLimitsMilliseconds = { min: 0, max: 5000 } as const

export const soundSchema = z.strictObject({
  id: identifierSchema,
  name: shortTextSchema.min(1),
  kind: z.enum(soundKinds),
  /** The source whose own sound this is, such as a camera's or a media file's; else null. */
  sourceId: identifierSchema.nullable(),
  /** The input it is taken from, as the browser names it; empty where none is chosen yet. */
  input: shortTextSchema,
  levelDecibels: limitedSchema(levelLimitsDecibels),
  muted: z.boolean(),
  channels: z.literal([1, 2]),
  sampleRateHz: audioSampleRateSchema,
  noiseSuppression: z.boolean(),
  delayMilliseconds: limitedIntegerSchema(delayLimitsMilliseconds),
  mixes: z.strictObject({ live: z.boolean(), archive: z.boolean() }),
  /** Other sounds that carry this one as well, as computer sound carries music played on the computer. */
  alsoHeardIn: z.array(identifierSchema).max(50),
  /** Whether one has the right to keep it; matters for music. */
  mayBeKept: z.boolean(),
})
/** Something that gives a sound, and the mixes it goes into. */
export type Sound = z.infer<typeof soundSchema>
