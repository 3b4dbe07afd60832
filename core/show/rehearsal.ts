import { z } from 'zod'
import { identifierSchema } from './identifier'
import { limitedSchema } from './limits'
import { media } from './line'
import { mostOf } from './mostOf'

const happeningSchema = z.strictObject({
  id: identifierSchema,
  on: z.boolean(),
  /** From the start of the show. */
  atSeconds: z.number().min(0).max(604_800),
  durationSeconds: z.number().min(0.1).max(604_800),
})
const percentSchema = z.number().min(0).max(100)
const kbpsSchema = z.number().min(0).max(100_000_000)

export const incidentSchema = z.discriminatedUnion('kind', [
  /** The line carries this share of what it would. */
  happeningSchema.extend({ kind: z.literal('upload dips'), leftPercent: percentSchema }),
  happeningSchema.extend({ kind: z.literal('outage') }),
  happeningSchema.extend({ kind: z.literal('loss burst'), lossPercent: percentSchema }),
  happeningSchema.extend({ kind: z.literal('other traffic'), kbps: kbpsSchema }),
  /** The values of the samples of this medium. */
  happeningSchema.extend({ kind: z.literal('other medium'), medium: z.enum(media) }),
  happeningSchema.extend({
    kind: z.literal('device taken'),
    deviceId: identifierSchema,
    takenPercent: percentSchema,
  }),
  happeningSchema.extend({ kind: z.literal('hangs up'), destinationId: identifierSchema }),
  happeningSchema.extend({
    kind: z.literal('slow ingest'),
    destinationId: identifierSchema,
    kbps: kbpsSchema,
  }),
  /** Nothing is taken until a fresh key is pasted. */
  happeningSchema.extend({ kind: z.literal('key runs out'), destinationId: identifierSchema }),
  happeningSchema.extend({ kind: z.literal('disk fills') }),
])
/** Something that happens to a night. */
export type Incident = z.infer<typeof incidentSchema>
export type IncidentKind = Incident['kind']

/** What a clean night allows; common practice that viewers notice over 1 % of frames, the rest set by us. */
export const cleanLimits = {
  lostPercent: { min: 0, max: 100, default: 0.5 },
  awaySeconds: { min: 0, max: 3600, default: 10 },
  behindSeconds: { min: 0, max: 600, default: 5 },
} as const
const { lostPercent, awaySeconds, behindSeconds } = cleanLimits
export const cleanSchema = z.strictObject({
  lostPercent: limitedSchema(lostPercent),
  awaySeconds: limitedSchema(awaySeconds),
  behindSeconds: limitedSchema(behindSeconds),
})
/** More than this of anybody's, and a night is not clean. */
export type CleanLimits = z.infer<typeof cleanSchema>

export const wantedPercentLimits = { min: 50, max: 99, default: 95 } as const

export const rehearsalSchema = z.strictObject({
  /** Which nights are drawn. */
  seed: z.int().min(0).max(2_147_483_647),
  incidents: z.array(incidentSchema).max(mostOf.incidents),
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

export const defaultRehearsal: RehearsalSettings = {
  seed: 1,
  incidents: [],
  clean: {
    lostPercent: cleanLimits.lostPercent.default,
    awaySeconds: cleanLimits.awaySeconds.default,
    behindSeconds: cleanLimits.behindSeconds.default,
  },
  wantedPercent: wantedPercentLimits.default,
  headroomFollows: false,
  last: null,
}
