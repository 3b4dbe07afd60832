import { type Bound, boundAt, type Part, partOf } from './bounds'
import type { Resources } from './resources'

/** What is still to be searched, and a bound on what can come of it. */
export interface Task {
  parts: readonly Part[]
  bound: Bound
}

/** Without the columns that can be part of no plan worth at least `floor`. */
export function narrowed({ parts, bound }: Task, floor: number, resources: Resources): Task {
  const kept = parts.map((part, index) => {
    const { full, best, priced } = bound.parts[index]!
    const most = bound.most - best[full]!
    const { columns, curves, inPlay } = part
    const kept = inPlay.filter(
      (column, at) => most + priced[at]! + best[full ^ columns.mask[column]!]! >= floor,
    )
    return kept.length === inPlay.length ? part : partOf(columns, curves, kept)
  })
  const isSame = kept.every((part, index) => part === parts[index])
  return { parts: kept, bound: isSame ? bound : boundAt(kept, bound.prices, resources) }
}
