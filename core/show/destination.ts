import { z } from 'zod'
import { canvasNameSchema, framesPerSecondSchema, sidePixelsSchema, sizeSchema } from './canvasPair'
import { coverZoneSchema } from './coverZone'
import { codecSchema } from './codec'
import { identifierSchema, shortTextSchema } from './identifier'
import { limitedIntegerSchema, limitedSchema } from './limits'
import { routedWishSchema } from './plan'
import { protocols } from './protocol'
import { sendingSchema } from './sending'
import { holdsASecret } from './serverAddress'
import { ownWordsSchema, wordRulesSchema } from './showWords'
import {
  audioBitrateKbpsSchema,
  audioChannelsSchema,
  audioCodecSchema,
  audioSampleRateSchema,
  bFramesSchema,
  keyframeIntervalSecondsSchema,
  renditionSchema,
  videoBitrateKbpsSchema,
} from './rendition'
import { mostOf } from './mostOf'

export const connections = ['address and key', 'linked account', 'relay', 'hand-off'] as const
export type Connection = (typeof connections)[number]

export const viewerScreens = ['phone', 'desk', 'tv'] as const
/** What a viewer holds or sits before. */
export type ViewerScreen = (typeof viewerScreens)[number]

export const startProcedures = [
  'live when it arrives',
  'pressed on its page',
  'by its program',
] as const

export const endProcedures = [
  'pressed on its page',
  'when the signal stops',
  'by its program',
] as const

/** How long a stream key is good for. */
export const keyLives = ['lasting', 'per session', 'no key'] as const
export type KeyLife = (typeof keyLives)[number]

export const chatPlaces = ['readable elsewhere', 'only on its page', 'no chat'] as const

const levelSchema = z.string().regex(/^\d(\.\d)?$/, 'a level such as 4 or 4.2')

export const rulesSchema = z.strictObject({
  codecs: z.array(codecSchema).min(1).max(3),
  sizes: z.discriminatedUnion('type', [
    /** At most this wide and this high. */
    z.strictObject({
      type: z.literal('up to'),
      width: sidePixelsSchema,
      height: sidePixelsSchema,
    }),
    z.strictObject({ type: z.literal('one of'), sizes: z.array(sizeSchema).min(1).max(12) }),
  ]),
  framesPerSecond: z.discriminatedUnion('type', [
    z.strictObject({ type: z.literal('up to'), most: framesPerSecondSchema }),
    z.strictObject({
      type: z.literal('one of'),
      choices: z.array(framesPerSecondSchema).min(1).max(6),
    }),
  ]),
  leastVideoBitrateKbps: videoBitrateKbpsSchema.nullable(),
  mostVideoBitrateKbps: videoBitrateKbpsSchema,
  /** The highest level that its players decode, where it caps one, per codec. */
  highestLevel: z.strictObject({
    h264: levelSchema.nullable(),
    hevc: levelSchema.nullable(),
    av1: levelSchema.nullable(),
  }),
  longestKeyframeIntervalSeconds: keyframeIntervalSecondsSchema,
  mostBFrames: bFramesSchema,
  audioCodecs: z.array(audioCodecSchema).min(1).max(2),
  mostAudioBitrateKbps: audioBitrateKbpsSchema,
  mostAudioChannels: audioChannelsSchema,
  audioSampleRatesHz: z.array(audioSampleRateSchema).min(1).max(2),
  /** 1, or up to 3 where it takes a ladder. */
  mostRenditions: z.int().min(1).max(3),
  start: z.enum(startProcedures),
  end: z.enum(endProcedures),
  key: z.strictObject({
    life: z.enum(keyLives),
    /** How long a per-session key stays good after it was given out, where that is said. */
    hours: z.number().min(0.1).max(10_000).nullable(),
  }),
  chat: z.enum(chatPlaces),
  /** Whether it offers a second ingest that takes the same send once more. */
  offersBackup: z.boolean(),
  /** For a relay: how many destinations it feeds at most. */
  mostFed: z.int().min(0).max(50),
  words: wordRulesSchema,
})
/** What a destination accepts and demands. */
export type Rules = z.infer<typeof rulesSchema>

/** Which destination profile a destination was made from, and its state at that time. */
export const profileReferenceSchema = z.strictObject({
  id: identifierSchema,
  name: shortTextSchema,
  revision: z.int().min(1).max(1_000_000),
  dated: z.iso.date(),
})
export type ProfileReference = z.infer<typeof profileReferenceSchema>

/** Common practice: 2 to 20 s. */
/** RTMP 1.0: chunks are of 128 bytes until something else is agreed. Common practice, no published source: of 4096 then. */
export const rtmpChunkLimitsBytes = { min: 128, max: 65_536, default: 4096 } as const
export const lagSecondsLimits = { min: 0, max: 300, default: 8 } as const

const addressSchema = z
  .string()
  .max(500)
  .refine(
    (address) => !holdsASecret(address),
    'an address may not hold a key, user name or passphrase',
  )

/** The account, the page on it, and the scheduled event there that a linked destination sends to. */
export const linkedAccountSchema = z.strictObject({
  accountId: identifierSchema,
  accountName: shortTextSchema,
  pageId: shortTextSchema,
  pageName: shortTextSchema,
  /** null starts an event of its own. */
  eventId: shortTextSchema.nullable(),
  eventTitle: shortTextSchema,
})
export type LinkedAccount = z.infer<typeof linkedAccountSchema>

export const handOffSounds = ['our live mix', 'its own microphone', 'both', 'neither'] as const

/** How the program of a hand-off takes our canvas. */
export const handOffSchema = z.strictObject({
  mirrorsPicture: z.boolean(),
  /** Whether our canvas is already mirrored for it, so that it comes out the right way round. */
  isMirroredBack: z.boolean(),
  sound: z.enum(handOffSounds),
})
export type HandOff = z.infer<typeof handOffSchema>

export const destinationSchema = z.strictObject({
  id: identifierSchema,
  name: shortTextSchema.min(1),
  note: shortTextSchema,
  canvas: canvasNameSchema,
  connection: z.enum(connections),
  protocol: z.enum(protocols),
  on: z.boolean(),
  plan: routedWishSchema,
  /** null where it was not made from one. */
  profile: profileReferenceSchema.nullable(),
  serverAddress: addressSchema,
  /** A second ingest that gets the same send once more; null where none is used. */
  backupAddress: addressSchema.nullable(),
  /** For a ladder: the name of the main rendition, to which 2 and 3 are appended. */
  streamName: z
    .string()
    .regex(/^[A-Za-z0-9_.-]{0,100}$/, 'letters, digits, dots, dashes or underscores'),
  account: linkedAccountSchema.nullable(),
  /** The relay that passes its own send on to this destination; null where it is sent to directly. */
  relayId: identifierSchema.nullable(),
  handOff: handOffSchema,
  /** What is known of the path to its server. */
  path: z.strictObject({
    roundTripMilliseconds: z.number().min(0.1).max(60_000).nullable(),
    lossPercent: z.number().min(0).max(100).nullable(),
    /** The chunks in which its ingest has RTMP sent; absent where it is not known to be another than usual. */
    rtmpChunkBytes: limitedIntegerSchema(rtmpChunkLimitsBytes).optional(),
  }),
  words: ownWordsSchema,
  chatAddress: addressSchema,
  chatReadBy: shortTextSchema,
  /** How long after it was sent its page shows the picture. */
  lagSeconds: limitedSchema(lagSecondsLimits),
  /** The screens its viewers watch on, the usual one first. */
  viewers: z.array(z.enum(viewerScreens)).min(1).max(3),
  sending: sendingSchema,
  coverZones: z.array(coverZoneSchema).max(mostOf.coverZones),
  rules: rulesSchema,
  /** What it gets: one, or the steps of a ladder from the largest down. */
  renditions: z.array(renditionSchema).min(1).max(3),
})
/** One place the show is sent to, on one canvas. */
export type Destination = z.infer<typeof destinationSchema>
