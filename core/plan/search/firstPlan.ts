import { compareShortfalls } from '../problem/problem'
import { greedyPlan } from './greedy'
import type { KnownPlans, Served } from './groups'
import { lessShort, type NeighbourhoodLimits } from './largeNeighbourhood'
import { inPriorityOrder } from './priorityOrder'
import { type Encode, type EncodeUses, solutionOfEncodes } from './planState'

/** Of no more demands than this who falls short is settled by search alone. */
const maxSettled = 30

interface FirstPlan {
  /** null where there is none that keeps what must be kept. */
  encodes: Encode[] | null
  known: KnownPlans
}

/**
 * The plan that a search begins with: what is found at once, unless the plan that is held falls no shorter;
 * and of many demands, where that falls short, what a large neighbourhood search makes of it. Yields the
 * best so far, null while there is none.
 */
export function* firstPlan(
  uses: EncodeUses,
  held: Encode[] | null,
  limits: NeighbourhoodLimits,
): Generator<Encode[] | null, FirstPlan> {
  const { problem } = uses
  const worthOf = (encodes: readonly Encode[]) => solutionOfEncodes(uses, encodes).worth
  const steps = greedyPlan(uses)
  for (;;) {
    const { value, done } = steps.next()
    if (!done) {
      yield held
      continue
    }
    const atOnce =
      held && (!value || compareShortfalls(worthOf(held), worthOf(value)) >= 0) ? held : value
    const found =
      problem.demands.length <= maxSettled
        ? { encodes: atOnce, served: [] }
        : yield* lessShort(uses, atOnce, limits)
    const encodes = found.encodes && inPriorityOrder(problem, found.encodes)
    return { encodes, known: knownFrom(encodes, found.served) }
  }
}

/** What a search is to know of a plan, and of others. */
export const knownFrom = (
  encodes: readonly Encode[] | null,
  others: readonly Served[] = [],
): KnownPlans => ({ served: (encodes ?? []).map(({ serves }) => serves), others })
