import type { Placement, Size } from '../show'
import { moved } from './arrange'
import { type Box, boundsOf } from './geometry'

/** Alignments closer than this, in pixels, are meant. */
const alignedWithin = 1

const overlap = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width - 1e-6 &&
  b.x < a.x + a.width - 1e-6 &&
  a.y < b.y + b.height - 1e-6 &&
  b.y < a.y + a.height - 1e-6

interface Position {
  x: number
  y: number
}

/** Where a box of this size is held by its alignment to the canvas: in the middle of it, or nowhere. */
function alignment(start: number, length: number, canvasLength: number): boolean {
  return Math.abs(start + length / 2 - canvasLength / 2) <= alignedWithin
}

function candidates(start: number, length: number, canvasLength: number, edges: number[][]) {
  const last = canvasLength - length
  const starts = [
    start,
    0,
    last,
    last / 2,
    ...edges.flatMap(([low = 0, high = 0]) => [low - length, high]),
  ]
  return [...new Set(starts)].filter((value) => value >= -1e-6 && value <= last + 1e-6)
}

/**
 * Moves a placement to the nearest position on the canvas where none of the obstacles (cover zones
 * and other placements, in canvas pixels) lies over it. Size and turn stay; one that is centred
 * across or down stays so where that is possible. Null where there is no free position.
 *
 * The nearest free point lies where it is, on an edge of an obstacle grown by the placement's size,
 * or where two such edges cross, so trying those is exact.
 */
export function movedClear(
  placement: Placement,
  canvas: Size,
  obstacles: readonly Box[],
): Placement | null {
  const bounds = boundsOf(placement)
  const across = candidates(
    bounds.x,
    bounds.width,
    canvas.width,
    obstacles.map(({ x, width }) => [x, x + width]),
  )
  const down = candidates(
    bounds.y,
    bounds.height,
    canvas.height,
    obstacles.map(({ y, height }) => [y, y + height]),
  )
  const isCentredAcross = alignment(bounds.x, bounds.width, canvas.width)
  const isCentredDown = alignment(bounds.y, bounds.height, canvas.height)
  const broken = ({ x, y }: Position): number =>
    Number(isCentredAcross && !alignment(x, bounds.width, canvas.width)) +
    Number(isCentredDown && !alignment(y, bounds.height, canvas.height))
  const distance = ({ x, y }: Position): number => Math.hypot(x - bounds.x, y - bounds.y)
  let nearest: Position | undefined
  let best = { broken: Infinity, distance: Infinity }
  for (const x of across)
    for (const y of down) {
      const found = { broken: broken({ x, y }), distance: distance({ x, y }) }
      const isBetter =
        found.broken < best.broken ||
        (found.broken === best.broken && found.distance < best.distance)
      // What is no better need not be tried against every obstacle.
      if (!isBetter || obstacles.some((box) => overlap({ ...bounds, x, y }, box))) continue
      nearest = { x, y }
      best = found
    }
  return nearest ? moved(placement, nearest.x - bounds.x, nearest.y - bounds.y) : null
}
