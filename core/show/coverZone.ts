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

export type ZoneSide = 'x' | 'y' | 'width' | 'height'
type ZoneBox = Pick<CoverZone, ZoneSide>

/** Shares are kept to a ten-thousandth, a fifth of a pixel of the tallest usual canvas. */
const tidyShare = (value: number): number => Math.round(value * 10_000) / 10_000

/** A zone of usual size in the middle of the lower half, to begin with. */
export const newCoverZone = (id: string, mode: ViewingMode): CoverZone => ({
  id,
  name: 'comments',
  mode,
  x: 0.05,
  y: 0.7,
  width: 0.6,
  height: 0.25,
})

/** The zone with one side at a share of the picture; the others give way so that it stays within it. */
export function withZoneSide(zone: ZoneBox, side: ZoneSide, share: number): ZoneBox {
  const own: ZoneBox = { x: zone.x, y: zone.y, width: zone.width, height: zone.height }
  own[side] = tidyShare(Math.max(0, Math.min(1, share)))
  const { x, y, width, height } = own
  return {
    x: side === 'width' ? tidyShare(Math.min(x, 1 - width)) : x,
    y: side === 'height' ? tidyShare(Math.min(y, 1 - height)) : y,
    width: side === 'width' ? width : tidyShare(Math.min(width, 1 - x)),
    height: side === 'height' ? height : tidyShare(Math.min(height, 1 - y)),
  }
}

interface SharePoint {
  x: number
  y: number
}

/** The zone between two points of the picture, in shares of its sides. */
export function zoneBetween(from: SharePoint, to: SharePoint): ZoneBox {
  const within = (value: number): number => Math.max(0, Math.min(1, value))
  const [left, right] = [within(Math.min(from.x, to.x)), within(Math.max(from.x, to.x))]
  const [top, bottom] = [within(Math.min(from.y, to.y)), within(Math.max(from.y, to.y))]
  const box = { x: tidyShare(left), y: tidyShare(top) }
  return {
    ...box,
    width: tidyShare(Math.min(right - left, 1 - box.x)),
    height: tidyShare(Math.min(bottom - top, 1 - box.y)),
  }
}
