import type { Placement, Size, Source } from '../show'

export const canvasSvgLimitBytes = 60_000_000

/** Something in an SVG that can stand on a canvas. */
export interface SvgItem {
  source: Pick<Source, 'name' | 'kind'> & Partial<Source>
  placement: Placement
  /** A picture written into the file, as a data address. */
  picture: string | null
  /** Whether the picture has to be fitted into its box in its own proportions, as SVG does by default. */
  keepsProportions: boolean
}

/** Fits a picture into the box it was given, in its own proportions and about the middle, as SVG's "meet" does. */
export function fittedInBox(placement: Placement, native: Size): Placement {
  const factor = Math.min(placement.width / native.width, placement.height / native.height)
  const [width, height] = [native.width * factor, native.height * factor]
  return {
    ...placement,
    width,
    height,
    x: placement.x + (placement.width - width) / 2,
    y: placement.y + (placement.height - height) / 2,
  }
}
