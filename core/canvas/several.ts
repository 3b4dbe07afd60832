import type { Placement, Size } from '../show'
import { moved, withBox } from './arrange'
import { type Box, boundsOf } from './geometry'

export const alignments = ['left', 'centre', 'right', 'top', 'middle', 'bottom'] as const
export type Alignment = (typeof alignments)[number]

/** The smallest upright box around several placements; null for none. */
export function boundsOfAll(
  placements: readonly (Box & Pick<Placement, 'turnDegrees'>)[],
): Box | null {
  if (placements.length === 0) return null
  const boxes = placements.map(boundsOf)
  const x = Math.min(...boxes.map((box) => box.x))
  const y = Math.min(...boxes.map((box) => box.y))
  return {
    x,
    y,
    width: Math.max(...boxes.map((box) => box.x + box.width)) - x,
    height: Math.max(...boxes.map((box) => box.y + box.height)) - y,
  }
}

/** Aligns placements by their bounds: several to the box around them, one alone to the canvas. */
export function aligned(
  placements: readonly Placement[],
  how: Alignment,
  canvas: Size,
): Placement[] {
  const around = boundsOfAll(placements)
  if (!around) return []
  const frame = placements.length > 1 ? around : { x: 0, y: 0, ...canvas }
  return placements.map((placement) => {
    const box = boundsOf(placement)
    const by = {
      left: { x: frame.x - box.x, y: 0 },
      centre: { x: frame.x + frame.width / 2 - box.x - box.width / 2, y: 0 },
      right: { x: frame.x + frame.width - box.x - box.width, y: 0 },
      top: { x: 0, y: frame.y - box.y },
      middle: { x: 0, y: frame.y + frame.height / 2 - box.y - box.height / 2 },
      bottom: { x: 0, y: frame.y + frame.height - box.y - box.height },
    }[how]
    return moved(placement, by.x, by.y)
  })
}

/** Leaves the same clear distance between neighbours; the outermost two stay. Fewer than three stay as they are. */
export function distributed(
  placements: readonly Placement[],
  axis: 'across' | 'down',
): Placement[] {
  if (placements.length < 3) return [...placements]
  const [start, length] = axis === 'across' ? (['x', 'width'] as const) : (['y', 'height'] as const)
  const items = placements
    .map((placement, index) => ({ index, box: boundsOf(placement) }))
    .sort((a, b) => a.box[start] + a.box[length] / 2 - b.box[start] - b.box[length] / 2)
  const [first, last] = [items[0] as (typeof items)[0], items.at(-1) as (typeof items)[0]]
  const span = last.box[start] + last.box[length] - first.box[start]
  const filled = items.reduce((sum, { box }) => sum + box[length], 0)
  const gap = (span - filled) / (items.length - 1)
  const result = [...placements]
  let next = first.box[start]
  for (const { index, box } of items) {
    const by = next - box[start]
    const placement = placements[index] as Placement
    result[index] = axis === 'across' ? moved(placement, by, 0) : moved(placement, 0, by)
    next += box[length] + gap
  }
  return result
}

/** Gives all the size of the first, each about its own middle. */
export function equallySized(placements: readonly Placement[]): Placement[] {
  const [first] = placements
  return placements.map((placement) =>
    first
      ? withBox(placement, {
          width: first.width,
          height: first.height,
          x: placement.x + (placement.width - first.width) / 2,
          y: placement.y + (placement.height - first.height) / 2,
        })
      : placement,
  )
}
