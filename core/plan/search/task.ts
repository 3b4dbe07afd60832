import { type Bound, findingBound } from './bounds'
import { bestAround, fullState, type Part, restricted } from './parts'
import type { Resources } from './resources'

/** What is still to be searched, and a bound on what can come of it. */
export interface Task {
  parts: readonly Part[]
  bound: Bound
}

/** For each column in play whether the bound leaves it in some plan that is worth at least `floor`, 1 or 0. */
export function inPlansWorth({ parts, bound }: Task, floor: number): Uint8Array[] {
  return parts.map((part, index) => {
    const { inPlay, firstOfSet } = part
    const { best, worthOfSet, priced } = bound.parts[index]!
    const most = bound.most - best[fullState(part)]!
    const around = bestAround(part, worthOfSet, best)
    const isIn = new Uint8Array(inPlay.length)
    for (let set = 0; set < around.length; set += 1)
      for (let at = firstOfSet[set]!; at < firstOfSet[set + 1]!; at += 1)
        isIn[at] = most + priced[at]! + around[set]! >= floor ? 1 : 0
    return isIn
  })
}

/** Without the columns that can be part of no plan worth at least `floor`. Yields now and then, so that it can be stopped. */
export function* narrowed(task: Task, floor: number, resources: Resources): Generator<void, Task> {
  const { parts, bound } = task
  const kept = inPlansWorth(task, floor).map((isIn, index) => {
    return restricted(parts[index]!, (at) => isIn[at] === 1)
  })
  const isSame = kept.every((part, index) => part === parts[index])
  if (isSame) return { parts: kept, bound }
  yield
  return { parts: kept, bound: yield* findingBound(kept, bound.prices, resources) }
}
