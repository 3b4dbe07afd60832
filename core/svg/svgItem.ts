import type { Placement, Source } from '../show'

/** Something in an SVG that can stand on a canvas. */
export interface SvgItem {
  source: Pick<Source, 'name' | 'kind'> & Partial<Source>
  placement: Placement
  /** A picture written into the file, as a data address. */
  picture: string | null
  /** Whether the picture has to be fitted into its box in its own proportions, as SVG does by default. */
  keepsProportions: boolean
}
