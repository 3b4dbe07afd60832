import { z } from 'zod'
import { canvasNames, fileIdSchema, identifierSchema, shortTextSchema, taskIdSchema } from '../show'
import { canvasInputs, sendTargets } from './sending'

const maxBackSeconds = 86_400
const longestSeconds = 1_000_000

/** What one send from here came to, when it was ended. */
export const sentSchema = z.strictObject({
  kind: z.literal('sent'),
  destinationId: identifierSchema,
  name: shortTextSchema,
  isBackup: z.boolean(),
  seconds: z.number().min(0).max(longestSeconds),
  meanKbps: z.number().min(0).max(10_000_000),
  plannedKbps: z.number().min(0).max(10_000_000),
  sentFrames: z.int().min(0),
  lostFrames: z.int().min(0),
  reconnects: z.int().min(0),
  /** Whether what the line lost of it was not seen, as over SRT. */
  isLossUnknown: z.boolean().optional(),
  /** What viewers had of it; the earliest logs did not say. */
  viewed: z
    .strictObject({
      awaySeconds: z.number().min(0).max(longestSeconds),
      freezes: z.int().min(0),
      frozenSeconds: z.number().min(0).max(longestSeconds),
    })
    .optional(),
})
/** What the line carried of all sends from here together, and where it carried less than was sent. */
export const carriedSchema = z.strictObject({
  kind: z.literal('carried'),
  seconds: z.number().min(0).max(longestSeconds),
  meanKbps: z.number().min(0).max(10_000_000),
  shortages: z
    .array(
      z.strictObject({
        startedAt: z.iso.datetime().max(40),
        seconds: z.number().min(0).max(longestSeconds),
        carriedKbps: z.number().min(0).max(10_000_000),
      }),
    )
    .max(50),
})
/** What the encodes of one canvas took of the processor, 1 = all of it, and what was planned; null where not known. */
export const encodedSchema = z.strictObject({
  kind: z.literal('encoded'),
  // By its names: its schema would bring the schema library into every page that knows a canvas.
  canvas: z.enum(canvasNames),
  seconds: z.number().min(0).max(longestSeconds),
  /** Against real time. */
  speed: z.number().min(0).max(1000).nullable(),
  processorShare: z.number().min(0).max(1000).nullable(),
  /** What of it decoding and scaling took; null where that is not known, as of a program's own canvas. */
  pictureShare: z.number().min(0).max(1000).nullable().default(null),
  plannedShare: z.number().min(0).max(1000).nullable(),
})
/** What one recording came to; its length as it is read from the file, null where it can't be. */
export const recordedSchema = z.strictObject({
  kind: z.literal('recorded'),
  name: shortTextSchema,
  file: z.string().max(1000),
  seconds: z.number().min(0).max(longestSeconds).nullable(),
  megabytes: z.number().min(0).max(1_000_000_000),
  /** When its first frame was written; the earliest logs did not say. */
  startedAt: z.iso.datetime().max(40).optional(),
})

export const canvasInputSchema = z.union([
  z.enum(canvasInputs),
  z.strictObject({ fileId: fileIdSchema }),
])
/** Where sends go, and where each canvas comes from. */
export const sendingFromHereSchema = z.strictObject({
  target: z.enum(sendTargets),
  inputs: z.strictObject({ landscape: canvasInputSchema, vertical: canvasInputSchema }),
})
const maxDestinations = 500
/** The server ended while it sent, without a word: what was under way, so that it can be gone on with. */
export const interruptedSchema = sendingFromHereSchema.extend({
  kind: z.literal('interrupted'),
  /** What was being sent to. */
  destinationIds: z.array(identifierSchema).max(maxDestinations),
})

/** Something that happened on the night, as whoever saw it says it. */
export const happeningSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('begun') }),
  z.strictObject({ kind: z.literal('over') }),
  /** Everything kept before belongs to another night. */
  z.strictObject({ kind: z.literal('new night') }),
  z.strictObject({
    kind: z.literal('ticked'),
    taskId: taskIdSchema,
    title: z.string().max(500),
    /** Although it was said that something else comes first. */
    knowingly: z.boolean(),
  }),
  z.strictObject({ kind: z.literal('unticked'), taskId: taskIdSchema, title: z.string().max(500) }),
  z.strictObject({ kind: z.literal('scene'), sceneId: identifierSchema, name: shortTextSchema }),
  z.strictObject({
    kind: z.literal('marked'),
    markId: identifierSchema,
    name: shortTextSchema,
    sceneId: identifierSchema.nullable(),
    /** A stretch that ends now; 0 for a moment. */
    backSeconds: z.number().min(0).max(maxBackSeconds),
  }),
  z.strictObject({
    kind: z.literal('mark named'),
    markId: identifierSchema,
    name: shortTextSchema,
  }),
  z.strictObject({ kind: z.literal('mark removed'), markId: identifierSchema }),
  /** Trouble with a send, as it is seen. */
  z.strictObject({
    kind: z.literal('trouble'),
    destinationId: identifierSchema,
    name: shortTextSchema,
    trouble: z.enum(['not arriving', 'frozen', 'hung up', 'losing frames', 'no sound']),
  }),
  z.strictObject({
    kind: z.literal('trouble over'),
    destinationId: identifierSchema,
    name: shortTextSchema,
  }),
  sentSchema,
  carriedSchema,
  encodedSchema,
  recordedSchema,
  interruptedSchema,
  z.strictObject({ kind: z.literal('noted'), text: z.string().min(1).max(2000) }),
])
export type Happening = z.infer<typeof happeningSchema>
export type Trouble = Extract<Happening, { kind: 'trouble' }>['trouble']

/** What a phone that has a right to one night may say of it: what was done, marked, noted, and what is wrong. */
export const tendedKinds = [
  'ticked',
  'unticked',
  'marked',
  'mark named',
  'mark removed',
  'trouble',
  'trouble over',
  'noted',
] as const satisfies readonly Happening['kind'][]

/** The name under which the sender logs what it did; nobody else's. */
export const senderName = 'sender'

/** What a window sends to be kept. */
export const newNightEventSchema = z.strictObject({
  /** Made by the window, so that what is sent twice is kept once. */
  id: identifierSchema,
  /** A person of the show, or a name; empty where nobody said who they are. */
  who: shortTextSchema,
  /** How long ago it happened: a window that was away sends it later. */
  agoSeconds: z.number().min(0).max(maxBackSeconds),
  happening: happeningSchema,
})
export type NewNightEvent = z.infer<typeof newNightEventSchema>

export const nightEventSchema = z.strictObject({
  id: identifierSchema,
  who: shortTextSchema,
  /** ISO 8601 in UTC, by the server's clock. */
  at: z.iso.datetime().max(40),
  happening: happeningSchema,
})
/** One entry of the log of a night; `sequence` is its place. */
export type NightEvent = z.infer<typeof nightEventSchema> & { sequence: number }
