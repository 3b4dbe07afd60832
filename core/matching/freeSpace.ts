import type { Box } from '../canvas'
import type { Size } from '../show'

const meet = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height

const holds = (outer: Box, inner: Box): boolean =>
  outer.x <= inner.x &&
  outer.y <= inner.y &&
  outer.x + outer.width >= inner.x + inner.width &&
  outer.y + outer.height >= inner.y + inner.height

/** What is left of a box beside, above and below another, each part as large as it can be. */
function around(box: Box, zone: Box): Box[] {
  if (!meet(box, zone)) return [box]
  const right = box.x + box.width
  const bottom = box.y + box.height
  return [
    { ...box, width: zone.x - box.x },
    { ...box, x: zone.x + zone.width, width: right - zone.x - zone.width },
    { ...box, height: zone.y - box.y },
    { ...box, y: zone.y + zone.height, height: bottom - zone.y - zone.height },
  ].filter(({ width, height }) => width > 0 && height > 0)
}

/** Every largest box of a canvas that no zone reaches into, the largest area first. */
export function freeBoxes(canvas: Size, zones: readonly Box[]): Box[] {
  const start: Box[] = [{ x: 0, y: 0, width: canvas.width, height: canvas.height }]
  return zones
    .reduce((boxes, zone) => {
      const parts = boxes.flatMap((box) => around(box, zone))
      return parts.filter(
        (part, index) =>
          !parts.some(
            (other, place) =>
              place !== index && holds(other, part) && (place < index || !holds(part, other)),
          ),
      )
    }, start)
    .sort((a, b) => b.width * b.height - a.width * a.height)
}
