import type { Focus, Placement, Size } from '../show'
import { cornersOf } from './geometry'
import type { Polygon } from './convex'
import { sourceToCanvas, usedPart } from './trim'

/** Whether a trim leaves a source's focus whole, to a thousandth of a pixel. */
export function isFocusWhole(focus: Focus | null, native: Size, trim: Placement['trim']): boolean {
  if (!focus) return true
  const used = usedPart(native, trim)
  return (
    focus.x >= used.x - 1e-3 &&
    focus.y >= used.y - 1e-3 &&
    focus.x + focus.width <= used.x + used.width + 1e-3 &&
    focus.y + focus.height <= used.y + used.height + 1e-3
  )
}

/** Where a source's focus lies on the canvas; the whole placement where it has none. */
export function focusOnCanvas(placement: Placement, native: Size, focus: Focus | null): Polygon {
  if (!focus) return cornersOf(placement)
  const { x, y, width, height } = focus
  return [
    { x, y },
    { x: x + width, y },
    { x: x + width, y: y + height },
    { x, y: y + height },
  ].map((corner) => sourceToCanvas(placement, native, corner))
}
