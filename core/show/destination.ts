import { z } from 'zod'
import { canvasNameSchema, framesPerSecondSchema, sizeSchema } from './canvasPair'
import { coverZoneSchema } from './coverZone'
import { identifierSchema, shortTextSchema } from './identifier'
import {
  audioBitrateKbpsSchema,
  audioSampleRateSchema,
  codecSchema,
  renditionSchema,
  videoBitrateKbpsSchema,
} from './rendition'

export const connections = ['address and key', 'linked account', 'relay', 'hand-off'] as const
export type Connection = (typeof connections)[number]

export const protocols = ['rtmp', 'rtmps', 'srt', 'whip'] as const
export type Protocol = (typeof protocols)[number]

export const viewerScreens = ['phone', 'desk', 'tv'] as const
/** What a viewer holds or sits before. */
export type ViewerScreen = (typeof viewerScreens)[number]

export const startProcedures = [
  'live when it arrives',
  'pressed on its page',
  'by its program',
] as const

const levelSchema = z.string().regex(/^\d(\.\d)?$/, 'a level such as 4 or 4.2')

export const rulesSchema = z.strictObject({
  codecs: z.array(codecSchema).min(1).max(3),
  sizes: z.discriminatedUnion('type', [
    /** At most this wide and this high. */
    z.strictObject({
      type: z.literal('up to'),
      width: sizeSchema.shape.width,
      height: sizeSchema.shape.height,
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
  longestKeyframeIntervalSeconds: z.number().min(0.1).max(20),
  mostBFrames: z.int().min(0).max(16),
  mostAudioBitrateKbps: audioBitrateKbpsSchema,
  audioSampleRatesHz: z.array(audioSampleRateSchema).min(1).max(2),
  /** 1, or up to 3 where it takes a ladder. */
  mostRenditions: z.int().min(1).max(3),
  start: z.enum(startProcedures),
})
/** What a destination accepts and demands. */
export type Rules = z.infer<typeof rulesSchema>

export const destinationSchema = z.strictObject({
  id: identifierSchema,
  name: shortTextSchema.min(1),
  note: shortTextSchema,
  canvas: canvasNameSchema,
  connection: z.enum(connections),
  protocol: z.enum(protocols),
  on: z.boolean(),
  /** The screens its viewers watch on, the usual one first. */
  viewers: z.array(z.enum(viewerScreens)).min(1).max(3),
  coverZones: z.array(coverZoneSchema).max(60),
  rules: rulesSchema,
  /** What it gets: one, or the steps of a ladder from the largest down. */
  renditions: z.array(renditionSchema).min(1).max(3),
})
/** One place the show is sent to, on one canvas. */
export type Destination = z.infer<typeof destinationSchema>
