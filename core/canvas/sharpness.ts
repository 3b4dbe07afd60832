import type { Placement, Size } from '../show'
import { usedPart } from './trim'

/**
 * Source pixels used ÷ canvas pixels covered, per axis, the smaller; below 1 the source is blown up.
 */
export function sharpness(
  placement: Pick<Placement, 'width' | 'height' | 'trim'>,
  native: Size,
): number {
  const used = usedPart(native, placement.trim)
  return Math.min(used.width / placement.width, used.height / placement.height)
}
