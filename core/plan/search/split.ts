import { type Part, partOf } from './parts'

/** What of a member's columns may be told apart, the most telling first. */
const tellings = ['device', 'shape', 'mask', 'group', 'below', 'disk'] as const

/**
 * Splits a task in two: of the member with most columns in play, those on one side of a value and
 * those on the other. Every selection of columns is in one of the two.
 */
export function split(parts: readonly Part[]): Part[][] {
  let chosen: { part: number; mine: number[]; isOpen: boolean } = {
    part: 0,
    mine: [],
    isOpen: false,
  }
  parts.forEach(({ columns, inPlay }, part) => {
    columns.members.forEach((_, bit) => {
      const mine = [...inPlay].filter((column) => columns.mask[column]! & (1 << bit))
      // Whether somebody is left out tells more than all else.
      const isOpen =
        mine.some((column) => columns.device[column]! < 0) &&
        mine.some((column) => columns.device[column]! >= 0)
      if (isOpen === chosen.isOpen ? mine.length > chosen.mine.length : isOpen)
        chosen = { part, mine, isOpen }
    })
  })
  const { columns } = parts[chosen.part]!
  const { mine } = chosen
  for (const name of tellings) {
    const values = columns[name]
    const counts = new Map<number, number>()
    for (const column of mine) counts.set(values[column]!, (counts.get(values[column]!) ?? 0) + 1)
    if (counts.size < 2) continue
    const sorted = [...counts].sort(([a], [b]) => a - b)
    let below = 0
    const edge =
      chosen.isOpen && name === 'device'
        ? -1
        : sorted.find(([, count]) => (below += count) * 2 >= mine.length)![0]
    const isLast = edge === sorted.at(-1)![0]
    const isLow = (column: number): boolean =>
      isLast ? values[column]! < edge : values[column]! <= edge
    const side = (low: boolean): Set<number> =>
      new Set(mine.filter((column) => isLow(column) !== low))
    return [side(true), side(false)].map((gone) =>
      parts.map((part, index) =>
        index === chosen.part
          ? partOf(
              columns,
              part.curves,
              part.inPlay.filter((column) => !gone.has(column)),
            )
          : part,
      ),
    )
  }
  return []
}
