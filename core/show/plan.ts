import { z } from 'zod'

export const priorityLimits = { least: 1, most: 5, usual: 3 } as const
const prioritySchema = z.int().min(priorityLimits.least).max(priorityLimits.most)

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
})
/** How much a destination or recording matters to a plan, and whether there is room for it. */
export type Wish = z.infer<typeof wishSchema>

export const routedWishSchema = wishSchema.extend({
  /** Whether a plan keeps to the route that is set: directly, or through the relay named. */
  routePinned: z.boolean(),
})
export type RoutedWish = z.infer<typeof routedWishSchema>

export const fitSettingsSchema = z.strictObject({
  /** Whether every change is followed by a new plan; else cells are set by hand. */
  automatic: z.boolean(),
  /** A plan has as few as possible below this picture score. */
  floorScore: z.int().min(0).max(100),
})
export type FitSettings = z.infer<typeof fitSettingsSchema>

export const usualWish: RoutedWish = {
  priority: priorityLimits.usual,
  mustKeep: false,
  leftOut: false,
  routePinned: true,
}
/** 50 is where a picture stops being broken. */
export const usualFitSettings: FitSettings = { automatic: true, floorScore: 50 }
