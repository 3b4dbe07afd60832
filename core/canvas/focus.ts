import type { Focus, Placement, Size } from '../show'
import { boxBetween, cornersOf, type Point } from './geometry'
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

/** The middle half of a source, to begin with. */
export function defaultFocus({ width, height }: Size): Focus {
  return {
    x: Math.round(width / 4),
    y: Math.round(height / 4),
    width: Math.max(1, Math.round(width / 2)),
    height: Math.max(1, Math.round(height / 2)),
  }
}

/** The focus between two points of a source, in its own whole pixels, held within it; at least one pixel a side. */
export function focusBetween(from: Point, to: Point, native: Size): Focus {
  const within = ({ x, y }: Point): Point => ({
    x: Math.round(Math.max(0, Math.min(native.width, x))),
    y: Math.round(Math.max(0, Math.min(native.height, y))),
  })
  const { x, y, width, height } = boxBetween(within(from), within(to))
  return {
    x: Math.min(x, native.width - 1),
    y: Math.min(y, native.height - 1),
    width: Math.max(1, width),
    height: Math.max(1, height),
  }
}

/** A focus with one of its numbers set; its size gives way so that it stays within the source. */
export function withFocusSide(
  focus: Focus,
  side: keyof Focus,
  pixels: number,
  native: Size,
): Focus {
  const next = { ...focus, [side]: pixels } as Focus
  const x = Math.max(0, Math.min(next.x, native.width - 1))
  const y = Math.max(0, Math.min(next.y, native.height - 1))
  return {
    x,
    y,
    width: Math.max(1, Math.min(next.width, native.width - x)),
    height: Math.max(1, Math.min(next.height, native.height - y)),
  }
}
