import type { Placement, Size, Trim } from '../show'
import { type Box, middleOf, type Point, turned } from './geometry'

/** The part of the source that is used, in the source's own pixels. */
export function usedPart(native: Size, { left, top, right, bottom }: Trim): Box {
  return {
    x: left,
    y: top,
    width: native.width - left - right,
    height: native.height - top - bottom,
  }
}

/** Where a pixel of the source lands on the canvas, after trim, flip and turn. */
export function sourceToCanvas(placement: Placement, native: Size, pixel: Point): Point {
  const used = usedPart(native, placement.trim)
  const across = (pixel.x - used.x) / used.width - 0.5
  const down = (pixel.y - used.y) / used.height - 0.5
  const middle = middleOf(placement)
  const { x, y } = turned(
    {
      x: (placement.flippedAcross ? -across : across) * placement.width,
      y: (placement.flippedDown ? -down : down) * placement.height,
    },
    placement.turnDegrees,
  )
  return { x: middle.x + x, y: middle.y + y }
}

/** Holds each side at zero or more, and leaves at least one pixel of the source. */
function allowedTrim(native: Size, wanted: Trim, before: Trim): Trim {
  const pair = (low: number, high: number, lowBefore: number, length: number): [number, number] => {
    const most = length - 1
    const [a, b] = [Math.max(0, Math.min(low, most)), Math.max(0, Math.min(high, most))]
    if (a + b <= most) return [a, b]
    // The side that was moved gives way.
    return a !== lowBefore ? [most - b, b] : [a, most - a]
  }
  const [left, right] = pair(wanted.left, wanted.right, before.left, native.width)
  const [top, bottom] = pair(wanted.top, wanted.bottom, before.top, native.height)
  return { left, right, top, bottom }
}

/**
 * Sets what is cut off each edge, in the source's own pixels, so that what stays visible does not
 * move or change scale. A trim that would leave nothing stops at one pixel.
 */
export function withTrim(placement: Placement, native: Size, wanted: Trim): Placement {
  const trim = allowedTrim(native, wanted, placement.trim)
  const before = usedPart(native, placement.trim)
  const after = usedPart(native, trim)
  const width = (placement.width / before.width) * after.width
  const height = (placement.height / before.height) * after.height
  const middle = sourceToCanvas(placement, native, {
    x: after.x + after.width / 2,
    y: after.y + after.height / 2,
  })
  return {
    ...placement,
    trim,
    width: Math.max(1, width),
    height: Math.max(1, height),
    x: middle.x - width / 2,
    y: middle.y - height / 2,
  }
}
