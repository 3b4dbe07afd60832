import { type Bound, findingBound } from './lagrangianBound'
import { bestAround, fullState, type Subproblem, restricted } from './subproblems'
import type { Resources } from './resources'

/** What is still to be searched, and a bound on what can come of it. */
export interface Node {
  subproblems: readonly Subproblem[]
  bound: Bound
}

/** For each column in play whether the bound leaves it in some plan that is worth at least `floor`, 1 or 0. */
export function* inPlansWorth(
  { subproblems, bound }: Node,
  floor: number,
): Generator<void, Uint8Array[]> {
  const found: Uint8Array[] = []
  for (const [index, subproblem] of subproblems.entries()) {
    yield
    const { inPlay, firstOfSet } = subproblem
    const { best, worthOfSet, priced } = bound.subproblems[index]!
    const upper = bound.upper - best[fullState(subproblem)]!
    const around = bestAround(subproblem, worthOfSet, best)
    const isIn = new Uint8Array(inPlay.length)
    for (let set = 0; set < around.length; set += 1)
      for (let at = firstOfSet[set]!; at < firstOfSet[set + 1]!; at += 1)
        isIn[at] = upper + priced[at]! + around[set]! >= floor ? 1 : 0
    found.push(isIn)
  }
  return found
}

/** Without the columns that can be subproblem of no plan worth at least `floor`. Yields now and then, so that it can be stopped. */
export function* reducedCostFixed(
  node: Node,
  floor: number,
  resources: Resources,
): Generator<void, Node> {
  const { subproblems, bound } = node
  const kept: Subproblem[] = []
  for (const [index, isIn] of (yield* inPlansWorth(node, floor)).entries())
    kept.push(yield* restricted(subproblems[index]!, isIn))
  const isSame = kept.every((subproblem, index) => subproblem === subproblems[index])
  if (isSame) return { subproblems: kept, bound }
  yield
  return { subproblems: kept, bound: yield* findingBound(kept, bound.prices, resources) }
}
