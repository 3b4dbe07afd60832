import { z } from 'zod'
import { identifierSchema, shortTextSchema } from './identifier'
import { limitedIntegerSchema, limitedSchema } from './limits'
import { sizeSchema } from './canvasPair'
import { codecSchema, effortSchema } from './codec'

export const rateControls = ['constant', 'variable'] as const
export type RateControl = (typeof rateControls)[number]

/** H.264 profiles; HEVC and AV1 are always encoded in their Main profile. */
export const encodingProfiles = ['baseline', 'main', 'high'] as const
export type EncodingProfile = (typeof encodingProfiles)[number]

/** The filters that make the canvas smaller, the sharpest first. */
export const downscalingFilters = ['lanczos', 'bicubic', 'bilinear'] as const
export type DownscalingFilter = (typeof downscalingFilters)[number]

export const lookAheadLimitsFrames = { min: 0, max: 250 } as const

export const encoderSettingsSchema = z.strictObject({
  /** The device of the show's computer that encodes; null while none is chosen. */
  deviceId: identifierSchema.nullable(),
  rateControl: z.enum(rateControls),
  profile: z.enum(encodingProfiles),
  lookAheadFrames: limitedIntegerSchema(lookAheadLimitsFrames),
  downscaling: z.enum(downscalingFilters),
})
/** How a rendition is encoded, beyond what its viewers and its destination know of it. */
export type EncoderSettings = z.infer<typeof encoderSettingsSchema>

export const deviceKinds = ['processor', 'graphics'] as const
export type DeviceKind = (typeof deviceKinds)[number]

/** What a device does at one codec and effort: what it gets through, in megapixels per second, and how well. */
export const throughputSchema = z.strictObject({
  codec: codecSchema,
  effort: effortSchema,
  megapixelsPerSecond: z.number().min(0.1).max(1_000_000),
  /** What every frame costs whatever its size, in milliseconds of the whole device; absent where it was not measured. */
  millisecondsAFrame: z.number().min(0).max(1000).optional(),
  /** What it gets out of a bit, with software H.264 at its finest as 1; absent where it was not measured. */
  efficiency: z.number().min(0.05).max(20).optional(),
})
export type Throughput = z.infer<typeof throughputSchema>

export const plannedShareLimitsPercent = { min: 10, max: 100, default: 80 } as const

export const deviceSchema = z.strictObject({
  id: identifierSchema,
  name: shortTextSchema.min(1),
  kind: z.enum(deviceKinds),
  /** How much of it a plan may use. */
  plannedSharePercent: limitedSchema(plannedShareLimitsPercent),
  /** How many encodes it runs at once; null where it sets no limit. */
  sessions: z.int().min(1).max(64).nullable(),
  /** The longer and the shorter side that it takes at most; a vertical picture is turned. */
  largest: sizeSchema,
  throughputs: z.array(throughputSchema).max(15),
  /** By how much several encodes at once take more of it than their sum; absent where it was not measured. */
  togetherFactor: z.number().min(1).max(4).optional(),
})
/** Something in the computer that encodes: its processor, or an encoder on a graphics card. */
export type Device = z.infer<typeof deviceSchema>

/** Where the values of a computer come from, when they were measured. */
export const computerMeasuredSchema = z.strictObject({
  at: z.iso.datetime(),
  /** The installation that measured it: on any other, the computer is a foreign one. */
  installation: identifierSchema,
  processor: shortTextSchema,
  /** The encoder program and its version. */
  program: shortTextSchema,
  /** The codecs that the program can encode and put into what each protocol carries. */
  carries: z.strictObject({
    rtmp: z.array(codecSchema).max(3),
    rtmps: z.array(codecSchema).max(3),
    srt: z.array(codecSchema).max(3),
    whip: z.array(codecSchema).max(3),
  }),
  /** The clip by which was measured what its encoders get out of a bit; absent where it was a made picture, or not measured. */
  efficiencyClip: shortTextSchema.optional(),
})
export type ComputerMeasured = z.infer<typeof computerMeasuredSchema>

export const computerSchema = z.strictObject({
  name: shortTextSchema,
  devices: z.array(deviceSchema).max(8),
  /** Decimal gigabytes free for recordings; null where not known. */
  freeDiskGigabytes: z.number().min(0).max(1_000_000).nullable(),
  /** null where its values were typed in or are invented. */
  measured: computerMeasuredSchema.nullable(),
})
/** The computer that a show is encoded on. */
export type Computer = z.infer<typeof computerSchema>
