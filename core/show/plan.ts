import { z } from 'zod'
import { limitedSchema } from './limits'

export const priorityLimits = { min: 1, max: 5, default: 3 } as const
const prioritySchema = z.int().min(priorityLimits.min).max(priorityLimits.max)

/** What a plan may change of a rendition, and a person may pin. */
export const pinnable = [
  'size',
  'frame rate',
  'codec',
  'video bitrate',
  'device',
  'effort',
] as const
export type Pin = (typeof pinnable)[number]
export const pinsSchema = z
  .array(z.enum(pinnable))
  .refine((pins) => new Set(pins).size === pins.length, 'a pin stands here twice')

export const wishSchema = z.strictObject({
  priority: prioritySchema,
  /** A plan never leaves it out. */
  mustKeep: z.boolean(),
  /** Left out by the plan, since not everything fits. */
  leftOut: z.boolean(),
  /** Whether its cells are those of a plan that was carried out, which the next one changes no more than it has to. */
  planned: z.boolean(),
})
/** How much a destination or recording matters to a plan, and whether there is room for it. */
export type Wish = z.infer<typeof wishSchema>

export const routedWishSchema = wishSchema.extend({
  /** Whether a plan keeps to the route that is set: directly, or through the relay named. */
  routePinned: z.boolean(),
  /** Whether a plan may choose a newer codec than H.264 for it; null as the show says. */
  newerCodecs: z.boolean().nullable(),
})
export type RoutedWish = z.infer<typeof routedWishSchema>

/** Half a point is not seen, and leaves a plan room to stay as it was. */
export const marginPointsLimits = { min: 0, max: 5, default: 0.5 } as const
/** Two points are about what somebody looking for it would notice. */
export const shapeMarginPointsLimits = { min: 0, max: 10, default: 2 } as const

export const fitSettingsSchema = z.strictObject({
  /** Whether every change is followed by a new plan; else cells are set by hand. */
  automatic: z.boolean(),
  /** A plan has as few as possible below this picture score. */
  floorScore: z.int().min(0).max(100),
  /** A plan may stay so many points a destination below the best, and is then chosen for more than the score. */
  marginPoints: limitedSchema(marginPointsLimits),
  /** So many points a larger size or a higher frame rate has to score above the smaller one. */
  shapeMarginPoints: limitedSchema(shapeMarginPointsLimits),
  /** Whether plans may choose newer codecs than H.264 where they are accepted. */
  newerCodecs: z.boolean(),
})
export type FitSettings = z.infer<typeof fitSettingsSchema>

export const defaultPlanChoices: RoutedWish = {
  priority: priorityLimits.default,
  mustKeep: false,
  leftOut: false,
  planned: false,
  routePinned: true,
  newerCodecs: null,
}
/** 50 is where a picture stops being broken. */
export const defaultFitSettings: FitSettings = {
  automatic: true,
  floorScore: 50,
  marginPoints: marginPointsLimits.default,
  shapeMarginPoints: shapeMarginPointsLimits.default,
  newerCodecs: false,
}
