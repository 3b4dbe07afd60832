import type { Placement, Size } from '../show'

export interface Point {
  x: number
  y: number
}
export interface Box extends Point, Size {}

const radians = (degrees: number): number => (degrees * Math.PI) / 180

/** Turns a vector clockwise (y points down, as on a canvas). */
export function turned({ x, y }: Point, degrees: number): Point {
  const cos = Math.cos(radians(degrees))
  const sin = Math.sin(radians(degrees))
  return { x: x * cos - y * sin, y: x * sin + y * cos }
}

/** The middle of a placement; turning leaves it where it is. */
export function middleOf({ x, y, width, height }: Box): Point {
  return { x: x + width / 2, y: y + height / 2 }
}

/** The four corners on the canvas, clockwise from the one that is upper left before turning. */
export function cornersOf(placement: Box & Pick<Placement, 'turnDegrees'>): Point[] {
  const middle = middleOf(placement)
  const halfWidth = placement.width / 2
  const halfHeight = placement.height / 2
  return [
    { x: -halfWidth, y: -halfHeight },
    { x: halfWidth, y: -halfHeight },
    { x: halfWidth, y: halfHeight },
    { x: -halfWidth, y: halfHeight },
  ].map((corner) => {
    const { x, y } = turned(corner, placement.turnDegrees)
    return { x: middle.x + x, y: middle.y + y }
  })
}

/** The smallest upright box around a turned placement. */
export function boundsOf(placement: Box & Pick<Placement, 'turnDegrees'>): Box {
  const corners = cornersOf(placement)
  const left = Math.min(...corners.map(({ x }) => x))
  const top = Math.min(...corners.map(({ y }) => y))
  return {
    x: left,
    y: top,
    width: Math.max(...corners.map(({ x }) => x)) - left,
    height: Math.max(...corners.map(({ y }) => y)) - top,
  }
}

/** Whether nothing of a placement is on the canvas. */
export function isOffCanvas(
  placement: Box & Pick<Placement, 'turnDegrees'>,
  canvas: Size,
): boolean {
  const { x, y, width, height } = boundsOf(placement)
  return x >= canvas.width || y >= canvas.height || x + width <= 0 || y + height <= 0
}

/** The upright box between two opposite corners, whichever way round. */
export const boxBetween = (a: Point, b: Point): Box => ({
  x: Math.min(a.x, b.x),
  y: Math.min(a.y, b.y),
  width: Math.abs(a.x - b.x),
  height: Math.abs(a.y - b.y),
})

/** A drawn node: its middle, its unscaled sides, its scale and its turn. */
export interface NodeState {
  middleX: number
  middleY: number
  width: number
  height: number
  scaleX: number
  scaleY: number
  turnDegrees: number
}

/** The box that a node which was moved, scaled or turned by hand now covers. */
export function boxFromNode(node: NodeState): Box & { turnDegrees: number } {
  const width = Math.round(node.width * Math.abs(node.scaleX))
  const height = Math.round(node.height * Math.abs(node.scaleY))
  return {
    width,
    height,
    x: Math.round(node.middleX - width / 2),
    y: Math.round(node.middleY - height / 2),
    turnDegrees: node.turnDegrees,
  }
}
