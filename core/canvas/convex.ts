import type { Box, Point } from './geometry'

/** A convex polygon, its corners in order, either way round. */
export type Polygon = readonly Point[]

export const polygonOfBox = ({ x, y, width, height }: Box): Polygon => [
  { x, y },
  { x: x + width, y },
  { x: x + width, y: y + height },
  { x, y: y + height },
]

function signedArea(polygon: Polygon): number {
  let twice = 0
  polygon.forEach(({ x, y }, index) => {
    const next = polygon[(index + 1) % polygon.length] as Point
    twice += x * next.y - next.x * y
  })
  return twice / 2
}

/** In squared pixels; 0 for fewer than three corners. */
export const areaOf = (polygon: Polygon): number => Math.abs(signedArea(polygon))

/** Twice the signed area of a, b and p: positive where p lies to the right of a → b on a canvas. */
const side = (a: Point, b: Point, p: Point): number =>
  (b.x - a.x) * (p.y - a.y) - (b.y - a.y) * (p.x - a.x)

function crossing(a: Point, b: Point, fromSide: number, toSide: number): Point {
  const share = fromSide / (fromSide - toSide)
  return { x: a.x + share * (b.x - a.x), y: a.y + share * (b.y - a.y) }
}

/** Cuts a polygon along the line a → b into what lies on its right, and on its left (Sutherland and Hodgman 1974, one edge). */
function cut(polygon: Polygon, a: Point, b: Point): { right: Polygon; left: Polygon } {
  const right: Point[] = []
  const left: Point[] = []
  polygon.forEach((point, index) => {
    const next = polygon[(index + 1) % polygon.length] as Point
    const [here, there] = [side(a, b, point), side(a, b, next)]
    if (here >= 0) right.push(point)
    if (here <= 0) left.push(point)
    if ((here > 0 && there < 0) || (here < 0 && there > 0)) {
      const meeting = crossing(point, next, here, there)
      right.push(meeting)
      left.push(meeting)
    }
  })
  return { right, left }
}

const clockwise = (polygon: Polygon): Polygon =>
  signedArea(polygon) >= 0 ? polygon : polygon.toReversed()

/** Areas below this, in squared pixels, are rounding. */
const noArea = 1e-9

/** What two convex polygons share; empty where they only touch. */
export function intersection(polygon: Polygon, other: Polygon): Polygon {
  const edges = clockwise(other)
  let rest = polygon
  edges.forEach((corner, index) => {
    if (rest.length > 0) rest = cut(rest, corner, edges[(index + 1) % edges.length] as Point).right
  })
  return areaOf(rest) > noArea ? rest : []
}

/** What is left of a convex polygon without another, as convex pieces that do not overlap. */
export function difference(polygon: Polygon, other: Polygon): Polygon[] {
  const edges = clockwise(other)
  const pieces: Polygon[] = []
  let rest = polygon
  for (const [index, corner] of edges.entries()) {
    const { right, left } = cut(rest, corner, edges[(index + 1) % edges.length] as Point)
    if (areaOf(left) > noArea) pieces.push(left)
    rest = right
    // Nothing of it lies within the other, so it stays in one piece.
    if (areaOf(rest) <= noArea) return [polygon]
  }
  return pieces
}

interface Extent {
  left: number
  top: number
  right: number
  bottom: number
}

function extentOf(polygon: Polygon): Extent {
  const extent = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity }
  for (const { x, y } of polygon) {
    if (x < extent.left) extent.left = x
    if (x > extent.right) extent.right = x
    if (y < extent.top) extent.top = y
    if (y > extent.bottom) extent.bottom = y
  }
  return extent
}

const areApart = (a: Extent, b: Extent): boolean =>
  a.right <= b.left || b.right <= a.left || a.bottom <= b.top || b.bottom <= a.top

/** What is left of convex pieces without all the others. */
export function differenceOfAll(pieces: readonly Polygon[], others: readonly Polygon[]): Polygon[] {
  return others.reduce<Polygon[]>(
    (rest, other) => {
      const extent = extentOf(other)
      return rest.flatMap((piece) =>
        // Most things on a canvas are nowhere near each other.
        areApart(extentOf(piece), extent) ? [piece] : difference(piece, other),
      )
    },
    [...pieces],
  )
}

/** Whether any of the pieces shares some area with a polygon. */
export function overlapsAny(pieces: readonly Polygon[], other: Polygon): boolean {
  const extent = extentOf(other)
  return pieces.some(
    (piece) => !areApart(extentOf(piece), extent) && intersection(piece, other).length > 0,
  )
}

export const totalArea = (pieces: readonly Polygon[]): number =>
  pieces.reduce((sum, piece) => sum + areaOf(piece), 0)

/** Whether a point lies within a convex polygon or on its edge. */
export function isWithin(polygon: Polygon, point: Point): boolean {
  const edges = clockwise(polygon)
  return edges.every(
    (corner, index) => side(corner, edges[(index + 1) % edges.length] as Point, point) >= 0,
  )
}
