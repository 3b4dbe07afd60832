import { z } from 'zod'
import { identifierSchema, shortTextSchema } from './identifier'
import { limitedSchema } from './limits'
import { mostOf } from './mostOf'

export const media = ['cable', 'wifi', 'mobile'] as const
export type Medium = (typeof media)[number]

const rateKbpsSchema = z.number().min(0).max(100_000_000)

export const lineSampleSchema = z.strictObject({
  id: identifierSchema,
  /** ISO 8601 in UTC, as in 2026-12-11T20:15:00Z. */
  measuredAt: z.iso.datetime().max(40),
  /** 0 where nothing passed: an outage, which counts as no measurement of the rate. */
  uploadKbps: z.number().min(0).max(100_000_000),
  medium: z.enum(media),
  roundTripMilliseconds: z.number().min(0).max(60_000).nullable(),
  lossPercent: z.number().min(0).max(100).nullable(),
  /** TCP segments that had to be sent again meanwhile. */
  retransmits: z.int().min(0).nullable(),
  note: shortTextSchema,
})
/** One upload measurement. */
export type LineSample = z.infer<typeof lineSampleSchema>

/** Something that uses a rate while it is on: a call on the line, a camera on the local network. */
export const trafficSchema = z.strictObject({
  id: identifierSchema,
  name: shortTextSchema.min(1),
  bitrateKbps: rateKbpsSchema,
  on: z.boolean(),
})
export type Traffic = z.infer<typeof trafficSchema>

export const headroomLimitsPercent = { min: 0, max: 70, default: 30 } as const
/** Which percentile of the samples counts as what the line gives; above the middle it would be no low one. */
export const lowPercentileLimits = { min: 1, max: 50, default: 10 } as const

/** What a contract for mobile data allows, and what of it is gone already. Decimal gigabytes. */
export const dataCapSchema = z.strictObject({
  gigabytes: z.number().min(0.001).max(1_000_000),
  usedGigabytes: z.number().min(0).max(1_000_000),
})
export type DataCap = z.infer<typeof dataCapSchema>

/** The switch or router at the place, and what loads it: network cameras do not use the upload. */
export const localNetworkSchema = z.strictObject({
  linkKbps: z.number().min(1000).max(400_000_000),
  devices: z.array(trafficSchema).max(100),
})
export type LocalNetwork = z.infer<typeof localNetworkSchema>

/** The oldest go where more are measured. */
export const maxLineSamples = 5000

export const lineSchema = z.strictObject({
  id: identifierSchema,
  name: shortTextSchema,
  lowPercentile: limitedSchema(lowPercentileLimits),
  /** The samples that count: those of one medium, or null for all. */
  medium: z.enum(media).nullable(),
  headroomPercent: limitedSchema(headroomLimitsPercent),
  samples: z.array(lineSampleSchema).max(maxLineSamples),
  otherTraffic: z.array(trafficSchema).max(mostOf.otherTraffic),
  /** null where data is not counted. */
  dataCap: dataCapSchema.nullable(),
  localNetwork: localNetworkSchema,
})
/** An internet connection that a show can go up, and the local network before it. */
export type Line = z.infer<typeof lineSchema>

/** The line that a show goes up. The document makes sure that there is one. */
export function lineOf(show: { lines: readonly Line[]; lineId: string }): Line {
  return (show.lines.find(({ id }) => id === show.lineId) ?? show.lines[0]) as Line
}
