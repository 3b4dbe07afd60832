import { z } from 'zod'
import { identifierSchema, shortTextSchema } from './identifier'

export const media = ['cable', 'wifi', 'mobile'] as const
export type Medium = (typeof media)[number]

export const lineSampleSchema = z.strictObject({
  id: identifierSchema,
  /** ISO 8601 in UTC, as in 2026-12-11T20:15:00Z. */
  measuredAt: z.iso.datetime(),
  uploadKbps: z.number().min(1).max(100_000_000),
  medium: z.enum(media),
  roundTripMilliseconds: z.number().min(0).max(60_000).nullable(),
  lossPercent: z.number().min(0).max(100).nullable(),
  note: shortTextSchema,
})
/** One upload measurement. */
export type LineSample = z.infer<typeof lineSampleSchema>

export const otherTrafficSchema = z.strictObject({
  id: identifierSchema,
  name: shortTextSchema.min(1),
  bitrateKbps: z.number().min(0).max(100_000_000),
  on: z.boolean(),
})
/** What else uses the upload during the show: a call, a game, a sync. */
export type OtherTraffic = z.infer<typeof otherTrafficSchema>

export const headroomLimitsPercent = { least: 0, most: 70, usual: 30 } as const

export const lineSchema = z.strictObject({
  name: shortTextSchema,
  headroomPercent: z.number().min(headroomLimitsPercent.least).max(headroomLimitsPercent.most),
  samples: z.array(lineSampleSchema).max(5000),
  otherTraffic: z.array(otherTrafficSchema).max(100),
})
/** The internet connection that the show goes up. */
export type Line = z.infer<typeof lineSchema>
