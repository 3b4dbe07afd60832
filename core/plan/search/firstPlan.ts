import { compareShortfalls } from '../problem/problem'
import { greedyPlan } from './greedy'
import type { KnownPlans, Served } from './groups'
import { lessShort, type NeighbourhoodLimits } from './largeNeighbourhood'
import { type Encode, type EncodeUses, solutionOfEncodes } from './planState'

/** Of no more demands than this who falls short is settled by search alone. */
const maxSettled = 20

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
  const { demands } = uses.problem
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
    if (demands.length <= maxSettled) return { encodes: atOnce, known: knownFrom(uses, atOnce) }
    const { encodes, served } = yield* lessShort(uses, atOnce, limits)
    return { encodes, known: knownFrom(uses, encodes, served) }
  }
}

/** What a search is to know of a plan, and of others. */
export function knownFrom(
  { problem: { demands } }: EncodeUses,
  encodes: readonly Encode[] | null,
  others: readonly Served[] = [],
): KnownPlans {
  const served = (encodes ?? []).map((encode) => encode.serves)
  const kept = new Set(served.flatMap((each) => each.map(({ demand }) => demand)))
  const leftOut = encodes ? demands.flatMap((_, demand) => (kept.has(demand) ? [] : [demand])) : []
  return { served, leftOut: new Set(leftOut), others }
}
