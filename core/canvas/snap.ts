import type { Size } from '../show'
import type { Box } from './geometry'
import { safeAreas } from './safeAreas'

export type Axis = 'across' | 'down'

/** A line that something can snap to: `at` is its x (across) or its y (down), in canvas pixels. */
export interface SnapLine {
  axis: Axis
  at: number
  /** What lies there, for the guide's label. */
  name: string
}

export interface Snapped {
  x: number
  y: number
  /** The lines that hold it, at most one an axis. */
  guides: SnapLine[]
}

const shares = [
  [0, 'edge'],
  [1 / 3, 'third'],
  [1 / 2, 'centre'],
  [2 / 3, 'third'],
  [1, 'edge'],
] as const

function linesOfBox({ x, y, width, height }: Box, name: string): SnapLine[] {
  return [0, 0.5, 1].flatMap((share): SnapLine[] => [
    { axis: 'across', at: x + width * share, name },
    { axis: 'down', at: y + height * share, name },
  ])
}

/** Everything to snap to: the canvas's edges, centre, thirds and safe areas, and the edges and middles of other boxes. */
export function snapLines(canvas: Size, others: readonly (Box & { name: string })[]): SnapLine[] {
  const ofCanvas = shares.flatMap(([share, name]): SnapLine[] => [
    { axis: 'across', at: canvas.width * share, name },
    { axis: 'down', at: canvas.height * share, name },
  ])
  const ofSafeAreas = safeAreas.flatMap(({ name, insetShare }): SnapLine[] =>
    [insetShare, 1 - insetShare].flatMap((share): SnapLine[] => [
      { axis: 'across', at: canvas.width * share, name },
      { axis: 'down', at: canvas.height * share, name },
    ]),
  )
  return [...ofCanvas, ...ofSafeAreas, ...others.flatMap((box) => linesOfBox(box, box.name))]
}

/** The line nearest to any of some positions on an axis, within a tolerance, and how far it is. */
function nearest(
  positions: readonly number[],
  axis: Axis,
  lines: readonly SnapLine[],
  tolerance: number,
): { line: SnapLine; by: number } | undefined {
  let best: { line: SnapLine; by: number } | undefined
  for (const line of lines) {
    if (line.axis !== axis) continue
    for (const position of positions) {
      const by = line.at - position
      if (Math.abs(by) > tolerance) continue
      if (!best || Math.abs(by) < Math.abs(best.by) - 1e-9) best = { line, by }
    }
  }
  return best
}

/** Moves a box by at most the tolerance so that an edge or its middle meets the nearest line on each axis. */
export function snappedBox(box: Box, lines: readonly SnapLine[], tolerance: number): Snapped {
  const three = (start: number, length: number) => [start, start + length / 2, start + length]
  const across = nearest(three(box.x, box.width), 'across', lines, tolerance)
  const down = nearest(three(box.y, box.height), 'down', lines, tolerance)
  return {
    x: box.x + (across?.by ?? 0),
    y: box.y + (down?.by ?? 0),
    guides: [across, down].flatMap((found) => (found ? [found.line] : [])),
  }
}

/** Moves a point onto the nearest line on each axis, as when one edge or corner is dragged. */
export function snappedPoint(
  point: { x: number; y: number },
  lines: readonly SnapLine[],
  tolerance: number,
): Snapped {
  return snappedBox({ ...point, width: 0, height: 0 }, lines, tolerance)
}

/** Which edges of a box a handle moves. */
export interface Handle {
  across: 'left' | 'right' | null
  down: 'top' | 'bottom' | null
}

/** A handle by the name that says which edges it moves, as in "top-left" or "middle-right". */
export const handleNamed = (name: string): Handle => ({
  across: name.endsWith('left') ? 'left' : name.endsWith('right') ? 'right' : null,
  down: name.startsWith('top') ? 'top' : name.startsWith('bottom') ? 'bottom' : null,
})

/**
 * Where a handle of an upright box goes when it is dragged to a point: onto the nearest line within
 * the tolerance. A corner that keeps the proportions may only move along the diagonal from the
 * opposite corner, so there one line leads and the other axis follows.
 */
export function snappedHandle(
  box: Box,
  handle: Handle,
  point: { x: number; y: number },
  lines: readonly SnapLine[],
  tolerance: number,
  keepsProportions: boolean,
): Snapped {
  const usable = lines.filter(({ axis }) => (axis === 'across' ? handle.across : handle.down))
  const held = snappedPoint(point, usable, tolerance)
  const [guide] = held.guides
  if (!guide || !keepsProportions || !handle.across || !handle.down) return held
  const opposite = {
    x: handle.across === 'left' ? box.x + box.width : box.x,
    y: handle.down === 'top' ? box.y + box.height : box.y,
  }
  const direction = (handle.across === 'left') === (handle.down === 'top') ? 1 : -1
  const ratio = (direction * box.height) / box.width
  return guide.axis === 'across'
    ? { x: guide.at, y: opposite.y + (guide.at - opposite.x) * ratio, guides: [guide] }
    : { x: opposite.x + (guide.at - opposite.y) / ratio, y: guide.at, guides: [guide] }
}

/** A clear distance between a box and what is next to it, as a line from one to the other. */
export interface Distance {
  axis: Axis
  from: { x: number; y: number }
  pixels: number
}

/** How far a box is from its nearest neighbour or the canvas's edge on each side; touching and overlapped sides are left out. */
export function distancesAround(box: Box, canvas: Size, others: readonly Box[]): Distance[] {
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 }
  const besides = others.filter((o) => o.y < box.y + box.height && o.y + o.height > box.y)
  const aboveOrBelow = others.filter((o) => o.x < box.x + box.width && o.x + o.width > box.x)
  const ends = {
    left: Math.max(0, ...besides.map((o) => o.x + o.width).filter((end) => end <= box.x)),
    right: Math.min(
      canvas.width,
      ...besides.map((o) => o.x).filter((start) => start >= box.x + box.width),
    ),
    above: Math.max(0, ...aboveOrBelow.map((o) => o.y + o.height).filter((end) => end <= box.y)),
    below: Math.min(
      canvas.height,
      ...aboveOrBelow.map((o) => o.y).filter((start) => start >= box.y + box.height),
    ),
  }
  const distances: Distance[] = [
    { axis: 'across', from: { x: ends.left, y: middle.y }, pixels: box.x - ends.left },
    {
      axis: 'across',
      from: { x: box.x + box.width, y: middle.y },
      pixels: ends.right - box.x - box.width,
    },
    { axis: 'down', from: { x: middle.x, y: ends.above }, pixels: box.y - ends.above },
    {
      axis: 'down',
      from: { x: middle.x, y: box.y + box.height },
      pixels: ends.below - box.y - box.height,
    },
  ]
  return distances.filter(({ pixels }) => pixels >= 1)
}
