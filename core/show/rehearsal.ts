import { z } from 'zod'
import { identifierSchema } from './identifier'
import { limitedSchema } from './limits'
import { media } from './line'

const common = {
  id: identifierSchema,
  on: z.boolean(),
  /** From the start of the show. */
  atSeconds: z.number().min(0).max(604_800),
  durationSeconds: z.number().min(0.1).max(604_800),
}
const share = z.number().min(0).max(100)
const rate = z.number().min(0).max(100_000_000)

export const incidentSchema = z.discriminatedUnion('kind', [
  /** The line carries this share of what it would. */
  z.strictObject({ ...common, kind: z.literal('upload dips'), leftPercent: share }),
  z.strictObject({ ...common, kind: z.literal('outage') }),
  z.strictObject({ ...common, kind: z.literal('loss burst'), lossPercent: share }),
  z.strictObject({ ...common, kind: z.literal('other traffic'), kbps: rate }),
  /** The values of the samples of this medium. */
  z.strictObject({ ...common, kind: z.literal('other medium'), medium: z.enum(media) }),
  z.strictObject({
    ...common,
    kind: z.literal('device taken'),
    deviceId: identifierSchema,
    takenPercent: share,
  }),
  z.strictObject({ ...common, kind: z.literal('hangs up'), destinationId: identifierSchema }),
  z.strictObject({
    ...common,
    kind: z.literal('slow ingest'),
    destinationId: identifierSchema,
    kbps: rate,
  }),
  /** Nothing is taken until a fresh key is pasted. */
  z.strictObject({ ...common, kind: z.literal('key runs out'), destinationId: identifierSchema }),
  z.strictObject({ ...common, kind: z.literal('disk fills') }),
])
/** Something that happens to a night. */
export type Incident = z.infer<typeof incidentSchema>
export type IncidentKind = Incident['kind']

/** What a clean night allows; common practice that viewers notice over 1 % of frames, the rest set by us. */
export const cleanLimits = {
  lostPercent: { least: 0, most: 100, usual: 0.5 },
  awaySeconds: { least: 0, most: 3600, usual: 10 },
  behindSeconds: { least: 0, most: 600, usual: 5 },
} as const
export const cleanSchema = z.strictObject({
  lostPercent: limitedSchema(cleanLimits.lostPercent),
  awaySeconds: limitedSchema(cleanLimits.awaySeconds),
  behindSeconds: limitedSchema(cleanLimits.behindSeconds),
})
/** More than this of anybody's, and a night is not clean. */
export type CleanLimits = z.infer<typeof cleanSchema>

export const wantedPercentLimits = { least: 50, most: 99, usual: 95 } as const

export const rehearsalSchema = z.strictObject({
  /** Which nights are drawn. */
  seed: z.int().min(0).max(2_147_483_647),
  incidents: z.array(incidentSchema).max(50),
  clean: cleanSchema,
  /** On so many of a hundred nights it is to be clean. */
  wantedPercent: limitedSchema(wantedPercentLimits),
  /** Whether the headroom follows that wish when the line or the destinations change. */
  headroomFollows: z.boolean(),
  /** What the last run of many nights found; null before there was one. */
  last: z
    .strictObject({
      /** What was rehearsed, so that a plan that changed since is told. */
      planKey: z.string().max(40),
      nights: z.int().min(1).max(100_000),
      clean: z.int().min(0).max(100_000),
      at: z.iso.datetime().max(40),
    })
    .nullable(),
})
export type RehearsalSettings = z.infer<typeof rehearsalSchema>

export const usualRehearsal: RehearsalSettings = {
  seed: 1,
  incidents: [],
  clean: {
    lostPercent: cleanLimits.lostPercent.usual,
    awaySeconds: cleanLimits.awaySeconds.usual,
    behindSeconds: cleanLimits.behindSeconds.usual,
  },
  wantedPercent: wantedPercentLimits.usual,
  headroomFollows: false,
  last: null,
}
