import type { Box } from '../canvas'
import type { Size } from '../show'

/** One thing in a row of a stack: its proportions and how large it may become. */
export interface Cell {
  key: string
  /** Width ÷ height. */
  aspect: number
  /** Words keep their size; pictures take the room that is left, up to their own pixels. */
  fixed: Size | null
  maxWidth: number
}

/** Pictures smaller than this share of the room they could have had are no arrangement. */
const smallestPictureFactor = 0.12

interface SizedRow {
  cells: readonly Cell[]
  height: number
  isFixed: boolean
}

function sized(cells: readonly Cell[], width: number, gap: number): SizedRow {
  const [first] = cells
  if (first?.fixed) return { cells, height: first.fixed.height, isFixed: true }
  const room = width - gap * (cells.length - 1)
  const aspects = cells.reduce((sum, { aspect }) => sum + aspect, 0)
  const sharpest = Math.min(...cells.map(({ aspect, maxWidth }) => maxWidth / aspect))
  return { cells, height: Math.min(room / aspects, sharpest), isFixed: false }
}

const widthOf = (cell: Cell, height: number): number =>
  cell.fixed ? cell.fixed.width : height * cell.aspect

/**
 * Stacks rows in a box, each centred across, the whole in the middle; pictures shrink together until
 * everything fits. Null where they would become too small. Boxes by the cells' keys.
 */
export function stackIn(
  box: Box,
  rows: readonly (readonly Cell[])[],
  gap: number,
): Map<string, Box> | null {
  const all = rows.filter((cells) => cells.length > 0).map((cells) => sized(cells, box.width, gap))
  const gaps = gap * Math.max(0, all.length - 1)
  const heightOf = (isFixed: boolean): number =>
    all.filter((row) => row.isFixed === isFixed).reduce((sum, row) => sum + row.height, 0)
  const room = box.height - gaps - heightOf(true)
  const pictures = heightOf(false)
  if (room < 0) return null
  const factor = pictures > 0 ? Math.min(1, room / pictures) : 1
  if (factor < smallestPictureFactor) return null
  const places = new Map<string, Box>()
  let y = box.y + Math.max(0, room - pictures * factor) / 2
  for (const { cells, height: natural, isFixed } of all) {
    const height = isFixed ? natural : natural * factor
    const width = cells.reduce((sum, cell) => sum + widthOf(cell, height), 0)
    let x = box.x + (box.width - width - gap * (cells.length - 1)) / 2
    for (const cell of cells) {
      const own = widthOf(cell, height)
      places.set(cell.key, { x, y, width: own, height })
      x += own + gap
    }
    y += height + gap
  }
  return places
}

/** Splits a list into rows of at most so many. */
export function inRows<Item>(items: readonly Item[], perRow: number): Item[][] {
  const rows: Item[][] = []
  for (let start = 0; start < items.length; start += perRow)
    rows.push(items.slice(start, start + perRow))
  return rows
}
