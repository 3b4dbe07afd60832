import { maxInSet } from './bitSets'
import type { Choice, Demand, Problem, Solution } from '../problem/problem'
import { componentsOf } from './components'

/** Where no more demands than this depend on each other, each is taken by itself, so that nothing is cut off. */
const maxByThemselves = { reachedByRelay: 6, others: maxInSet } as const

export interface Aggregated {
  problem: Problem
  /** For each demand of the aggregated problem the demands that it stands for. */
  standsFor: number[][]
  /** Whether every demand stands for itself, so that the best plan of the one is that of the other. */
  isExact: boolean
  /** Whether a bound on all plans of the aggregated problem is one on those of the other; see `aggregated`. */
  isBoundExact: boolean
}

/**
 * Demands that are alike in every respect can be told apart by nothing, so that trying each in the
 * place of every other is work for nothing. Their order by priority (`priorityOrder.ts`) leaves little
 * of it but where a relay may feed some of them, or where they are too many for one search. There those
 * that are alike are served in aggregation: of `n` alike the half, the half of the rest, and so on, so
 * that any number of them can be kept, and any number share one encode.
 *
 * At given prices there is always a best plan in which all that are alike share one encode: of the
 * encodes that serve some of them let the one at which each is worth most serve all, which costs no
 * more encodes. So the bound at any prices is the same whether they are aggregated or not, unless a relay
 * has room for only some of them.
 */
export function aggregated(problem: Problem): Aggregated {
  const { demands } = problem
  const sizes = new Map(
    componentsOf(problem).flatMap((members) =>
      members.map((member): [number, number] => [member, members.length]),
    ),
  )
  const isOneOfMany = (demand: number): boolean => {
    const isReached = demands[demand]!.relays.length > 0
    return sizes.get(demand)! > maxByThemselves[isReached ? 'reachedByRelay' : 'others']
  }
  const alike = alikeOwners(demands, isOneOfMany)
  const standsFor: number[][] = []
  const made: Demand[] = []
  for (const owners of alike)
    for (const bundle of halved(owners)) {
      const [first] = bundle as [number[]]
      first.forEach((demand, step) => {
        standsFor.push(bundle.map((owner) => owner[step]!))
        made.push(times(demands[demand]!, bundle.length))
      })
    }
  // In the order in which they stood, so that the same show makes the same problem.
  const order = made.map((_, index) => index).sort((a, b) => standsFor[a]![0]! - standsFor[b]![0]!)
  return {
    problem: { ...problem, demands: order.map((index) => made[index]!) },
    standsFor: order.map((index) => standsFor[index]!),
    isExact: made.length === demands.length,
    isBoundExact: made.every(
      (demand) =>
        demand.count === 1 ||
        demand.relays.every(
          (relay) => problem.relays[relay]!.mostFed >= maxReached(demands, relay),
        ),
    ),
  }
}

/** How many demands a relay could be asked to feed. */
const maxReached = (demands: readonly Demand[], relay: number): number =>
  demands.filter(({ relays }) => relays.includes(relay)).length

/** The plan of a aggregated problem as one of the problem that it was made from. */
export function disaggregated(solution: Solution, { standsFor }: Aggregated): Solution {
  const assignments = solution.assignments.flatMap(({ demand, encode, relay }) =>
    standsFor[demand]!.map((own) => ({ demand: own, encode, relay })),
  )
  return { ...solution, assignments: assignments.sort((a, b) => a.demand - b.demand) }
}

/** The demands of each owner, owners that are alike together. */
function alikeOwners(
  demands: readonly Demand[],
  isOneOfMany: (demand: number) => boolean,
): number[][][] {
  const owners = new Map<string, number[]>()
  demands.forEach(({ owner }, index) => owners.set(owner, [...(owners.get(owner) ?? []), index]))
  const numbers = new Map<readonly Choice[], number>()
  const numberOf = (choices: readonly Choice[]): number => {
    const number = numbers.get(choices) ?? numbers.size
    numbers.set(choices, number)
    return number
  }
  const groups = new Map<string, number[][]>()
  for (const [owner, steps] of owners) {
    // Spread over several relays they could not be in aggregation, whatever each of those may feed.
    const { shares, relays } = demands[steps[0]!]!
    const key =
      isOneOfMany(steps[0]!) && shares && relays.length <= 1
        ? JSON.stringify(
            steps.map((index) => {
              const { id: _id, owner: _owner, choices, ...rest } = demands[index]!
              return [rest, numberOf(choices)]
            }),
          )
        : owner
    groups.set(key, [...(groups.get(key) ?? []), steps])
  }
  return [...groups.values()]
}

function halved<Item>(items: readonly Item[]): Item[][] {
  const aggregation: Item[][] = []
  for (let at = 0; at < items.length;) {
    const size = Math.ceil((items.length - at) / 2)
    aggregation.push(items.slice(at, at + size))
    at += size
  }
  return aggregation
}

/** One demand that stands for so many that are alike. */
function times(demand: Demand, count: number): Demand {
  if (count === 1) return demand
  return {
    ...demand,
    count: demand.count * count,
    floorUnits: demand.floorUnits * count,
    marginUnits: demand.marginUnits * count,
    choices: demand.choices.map((choice) => ({
      ...choice,
      scores: choice.scores.map((units) => (units < 0 ? units : units * count)),
      wireKbps: choice.wireKbps.map((kbps) => (kbps < 0 ? kbps : kbps * count)),
      diskMegabytes: choice.diskMegabytes?.map((megabytes) => megabytes * count) ?? null,
    })),
  }
}
