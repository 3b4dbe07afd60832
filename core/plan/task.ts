import { type Bound, boundAt } from './bounds'
import { bestAround, fullState, type Part, partOf } from './parts'
import type { Resources } from './resources'

/** What is still to be searched, and a bound on what can come of it. */
export interface Task {
  parts: readonly Part[]
  bound: Bound
}

/** Without the columns that can be part of no plan worth at least `floor`. */
export function narrowed({ parts, bound }: Task, floor: number, resources: Resources): Task {
  const kept = parts.map((part, index) => {
    const { columns, curves, inPlay, firstOfSet } = part
    const { best, worthOfSet, priced } = bound.parts[index]!
    const most = bound.most - best[fullState(part)]!
    const around = bestAround(part, worthOfSet, best)
    let set = 0
    const kept = inPlay.filter((_, at) => {
      while (firstOfSet[set + 1]! <= at) set += 1
      return most + priced[at]! + around[set]! >= floor
    })
    return kept.length === inPlay.length ? part : partOf(columns, curves, kept)
  })
  const isSame = kept.every((part, index) => part === parts[index])
  return { parts: kept, bound: isSame ? bound : boundAt(kept, bound.prices, resources) }
}
