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

/** Which pixel of the source stands at a point of the canvas; the inverse of `sourceToCanvas`. */
export function canvasToSource(placement: Placement, native: Size, point: Point): Point {
  const used = usedPart(native, placement.trim)
  const middle = middleOf(placement)
  const { x, y } = turned({ x: point.x - middle.x, y: point.y - middle.y }, -placement.turnDegrees)
  const across = (placement.flippedAcross ? -x : x) / placement.width + 0.5
  const down = (placement.flippedDown ? -y : y) / placement.height + 0.5
  return { x: used.x + across * used.width, y: used.y + down * used.height }
}

export const edges = ['left', 'top', 'right', 'bottom'] as const
export type Edge = (typeof edges)[number]

/**
 * The edge of the source that lies nearest to a point, if it is within a distance in canvas pixels.
 * A flipped placement's left edge shows the source's right one.
 */
export function edgeNear(
  placement: Placement,
  native: Size,
  point: Point,
  withinPixels: number,
): Edge | undefined {
  const used = usedPart(native, placement.trim)
  const pixel = canvasToSource(placement, native, point)
  const across = placement.width / used.width
  const down = placement.height / used.height
  const distances: Record<Edge, number> = {
    left: Math.abs(pixel.x - used.x) * across,
    right: Math.abs(pixel.x - used.x - used.width) * across,
    top: Math.abs(pixel.y - used.y) * down,
    bottom: Math.abs(pixel.y - used.y - used.height) * down,
  }
  const margin = { x: withinPixels / across, y: withinPixels / down }
  const isBeside =
    pixel.x >= used.x - margin.x &&
    pixel.x <= used.x + used.width + margin.x &&
    pixel.y >= used.y - margin.y &&
    pixel.y <= used.y + used.height + margin.y
  if (!isBeside) return undefined
  const [nearest] = [...edges].sort((a, b) => distances[a] - distances[b])
  return nearest && distances[nearest] <= withinPixels ? nearest : undefined
}

/** The trim that puts one edge of the source at a point of the canvas, in whole source pixels. */
export function trimmedTo(placement: Placement, native: Size, edge: Edge, point: Point): Trim {
  const pixel = canvasToSource(placement, native, point)
  const wanted = {
    left: pixel.x,
    top: pixel.y,
    right: native.width - pixel.x,
    bottom: native.height - pixel.y,
  }[edge]
  return allowedTrim(
    native,
    { ...placement.trim, [edge]: Math.round(Math.max(0, wanted)) },
    placement.trim,
  )
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
