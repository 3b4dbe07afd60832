import type { Box } from '../../canvas'
import type { Size } from '../../show'

/** How far words and insets stay from the edges: EBU R 95, action-safe. */
export const marginShare = 0.035

/** The largest box of these proportions (width ÷ height) in the middle of another, at most so wide. */
export function fittedBox(aspect: number, within: Box, maxWidth = Infinity): Box {
  const width = Math.min(within.width, within.height * aspect, maxWidth)
  const height = width / aspect
  return {
    x: within.x + (within.width - width) / 2,
    y: within.y + (within.height - height) / 2,
    width,
    height,
  }
}

export function inset({ x, y, width, height }: Box, by: number): Box {
  return { x: x + by, y: y + by, width: width - 2 * by, height: height - 2 * by }
}

/** Boxes beside and under each other that share one out evenly, row by row, with a gap. */
export function gridOf(count: number, within: Box, gap: number): Box[] {
  const perRow = within.width >= within.height ? Math.ceil(Math.sqrt(count)) : count > 3 ? 2 : 1
  const rows = Math.ceil(count / perRow)
  const height = (within.height - gap * (rows - 1)) / rows
  return Array.from({ length: count }, (_, index) => {
    const row = Math.floor(index / perRow)
    const inRow = row === rows - 1 ? count - row * perRow : perRow
    const width = (within.width - gap * (perRow - 1)) / perRow
    const used = inRow * width + gap * (inRow - 1)
    return {
      x: within.x + (within.width - used) / 2 + (index - row * perRow) * (width + gap),
      y: within.y + row * (height + gap),
      width,
      height,
    }
  })
}

export const wholeOf = ({ width, height }: Size): Box => ({ x: 0, y: 0, width, height })
