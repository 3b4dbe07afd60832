import { z } from 'zod'
import { canvasNameSchema, identifierSchema, shortTextSchema } from '../show'

export const trialSecondsLimits = { min: 15, max: 120, default: 30 } as const

/** What one send was to be and what of it arrived. */
export const trialSendSchema = z.strictObject({
  /** As an encode's output has it. */
  key: z.string().max(200),
  name: shortTextSchema,
  canvas: canvasNameSchema,
  plannedWords: shortTextSchema,
  /** null where nothing arrived. */
  arrivedWords: shortTextSchema.nullable(),
  plannedFramesPerSecond: z.number(),
  arrivedFramesPerSecond: z.number().nullable(),
  plannedKbps: z.number(),
  arrivedKbps: z.number().nullable(),
  busiestSecondKbps: z.number().nullable(),
  longestKeyframeSpacingSeconds: z.number().nullable(),
  /** Bytes that crossed, and what the wire rate says they should be for the frames that came; null where they are not counted. */
  wireBytes: z.number().nullable(),
  computedWireBytes: z.number().nullable(),
  /** The longest that nothing came, in seconds. */
  longestGapSeconds: z.number().nullable(),
  /** The longest that a frame waited on its way, and how much of the picture never came; null where unknown, as in older trials. */
  longestWaitSeconds: z.number().nullable().default(null),
  droppedSeconds: z.number().nullable().default(null),
  /** kb/s in each second. */
  perSecondKbps: z.array(z.number()).max(200),
  /** What arrived held against the picture that was encoded; null where it was not, as in older trials. */
  picture: z
    .strictObject({
      ssim: z.number().min(0).max(1),
      comparedFrames: z.int().min(1),
      score: z.number(),
      plannedScore: z.number(),
    })
    .nullable()
    .default(null),
  findings: z
    .array(
      z.strictObject({
        kind: z.enum(['breach', 'differs', 'unforeseen']),
        words: z.string().max(500),
      }),
    )
    .max(40),
})
export type TrialSend = z.infer<typeof trialSendSchema>

/** What one process of the computer did: all encodes of a canvas. */
export const trialProcessSchema = z.strictObject({
  canvas: canvasNameSchema,
  encodes: z.array(shortTextSchema).max(200),
  /** Of real time; below 1 it did not keep up. null where it never got going. */
  speed: z.number().nullable(),
  droppedFrames: z.number(),
  /** Share of the processor that it took, 1 = all of it; null where it could not be read. */
  processorShare: z.number().nullable(),
  /** What of it decoding and scaling the canvas takes; null where that is not known, as in older trials. */
  pictureShare: z.number().nullable().default(null),
  /** What the plan's loads come to for it. */
  plannedShare: z.number().nullable(),
  /** Why it ended early, in words; empty where it did not. */
  problem: z.string().max(2000),
})
export type TrialProcess = z.infer<typeof trialProcessSchema>

export const trialRecordingSchema = z.strictObject({
  name: shortTextSchema,
  megabytes: z.number(),
  plannedMegabytes: z.number(),
})

export const trialResultSchema = z.strictObject({
  at: z.iso.datetime(),
  installation: identifierSchema,
  seconds: z.number(),
  /** The state of the plan that was tried. */
  planKey: z.string().max(40),
  input: shortTextSchema,
  /** The practice line; null where nothing held the sends back. */
  line: shortTextSchema.nullable(),
  /** The user's own host that sends over RTMP went to, by name and port; null where they went to listeners here. */
  ownHost: shortTextSchema.nullable().default(null),
  processes: z.array(trialProcessSchema).max(2),
  sends: z.array(trialSendSchema).max(300),
  recordings: z.array(trialRecordingSchema).max(10),
})
/** What a short run of the plan with real encoders and real sends came to. */
export type TrialResult = z.infer<typeof trialResultSchema>
