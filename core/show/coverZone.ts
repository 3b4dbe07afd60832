import { z } from 'zod'
import { identifierSchema, shortTextSchema } from './identifier'

export const viewingModes = ['feed', 'full screen', 'phone turned'] as const
export const viewingModeSchema = z.enum(viewingModes)
/** How a viewer has the picture before them: among others in a feed, alone on the screen, or on a phone turned on its side. */
export type ViewingMode = z.infer<typeof viewingModeSchema>

const shareSchema = z.number().min(0).max(1)

export const coverZoneSchema = z
  .strictObject({
    id: identifierSchema,
    /** What is drawn there: comments, buttons, gifts, title. */
    name: shortTextSchema.min(1),
    mode: viewingModeSchema,
    x: shareSchema,
    y: shareSchema,
    width: shareSchema,
    height: shareSchema,
  })
  .refine(({ x, width }) => x + width <= 1 + 1e-9, 'the zone ends beyond the right edge')
  .refine(({ y, height }) => y + height <= 1 + 1e-9, 'the zone ends beyond the lower edge')
/** A part of the picture that a destination's viewing app draws over, in shares of the picture's sides. */
export type CoverZone = z.infer<typeof coverZoneSchema>
