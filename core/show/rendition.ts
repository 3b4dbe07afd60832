import { z } from 'zod'
import { framesPerSecondSchema, sidePixelsSchema } from './canvasPair'
import { codecSchema, effortSchema } from './codec'
import { encoderSettingsSchema } from './encoder'
import { identifierSchema } from './identifier'
import { limitedIntegerSchema, limitedSchema } from './limits'
import { pinsSchema } from './plan'

export const audioSampleRatesHz = [44_100, 48_000] as const
export type AudioSampleRateHz = (typeof audioSampleRatesHz)[number]
export const audioSampleRateSchema = z.literal([...audioSampleRatesHz])

export const audioCodecs = ['aac', 'opus'] as const
export type AudioCodec = (typeof audioCodecs)[number]
export const audioCodecSchema = z.enum(audioCodecs)

export const audioChannelsSchema = z.literal([1, 2])
/** 1 is mono, 2 stereo. */
export type AudioChannels = z.infer<typeof audioChannelsSchema>

export const videoBitrateLimitsKbps = { min: 50, max: 200_000 } as const
export const audioBitrateLimitsKbps = { min: 16, max: 1024 } as const
export const keyframeIntervalLimitsSeconds = { min: 0.1, max: 20 } as const
export const bFramesLimits = { min: 0, max: 16 } as const
export const videoBitrateKbpsSchema = limitedIntegerSchema(videoBitrateLimitsKbps)
export const audioBitrateKbpsSchema = limitedIntegerSchema(audioBitrateLimitsKbps)
export const keyframeIntervalSecondsSchema = limitedSchema(keyframeIntervalLimitsSeconds)
export const bFramesSchema = limitedIntegerSchema(bFramesLimits)

export const renditionSchema = z.strictObject({
  id: identifierSchema,
  width: sidePixelsSchema,
  height: sidePixelsSchema,
  framesPerSecond: framesPerSecondSchema,
  codec: codecSchema,
  effort: effortSchema,
  videoBitrateKbps: videoBitrateKbpsSchema,
  keyframeIntervalSeconds: keyframeIntervalSecondsSchema,
  bFrames: bFramesSchema,
  audioCodec: audioCodecSchema,
  audioBitrateKbps: audioBitrateKbpsSchema,
  audioChannels: audioChannelsSchema,
  audioSampleRateHz: audioSampleRateSchema,
  encoder: encoderSettingsSchema,
  /** What a plan leaves as it is. */
  pins: pinsSchema,
})
/** One encoded version of a canvas. */
export type Rendition = z.infer<typeof renditionSchema>
