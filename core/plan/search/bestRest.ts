import { fullState, type Subproblem } from './subproblems'
import type { Resources } from './resources'

/**
 * The resources of which plans take whole units and few, counted exactly instead of priced: who is below the
 * floor or left out, the sessions of devices, relays. What is left of all of them is one number, a budget,
 * written in a place value system: `place` is what a unit of a resource counts in it.
 */
export interface Counting {
  counted: readonly { resource: number; max: number; place: number }[]
  /** How many budgets there are. */
  size: number
}

/** More budgets than this take longer than they save. */
const maxBudgets = 60
/** So many moves are looked at between two chances to stop. */
const movesBetweenYields = 20_000

/**
 * What is worth counting: what has a price, and could run short. It does not matter who is below the floor
 * where nobody may be, since then no such column is in play, or everybody may. Without prices nothing
 * else is counted.
 */
export function countingOf(
  subproblems: readonly Subproblem[],
  { capacity, sessions, leftOut, below }: Resources,
  prices: Float64Array | null,
): Counting {
  const members = subproblems.reduce((sum, { columns }) => sum + columns.members.length, 0)
  const counted: { resource: number; max: number; place: number }[] = []
  let size = 1
  const add = (resource: number): void => {
    const max = capacity[resource]!
    if (max <= 0 || size * (max + 1) > maxBudgets) return
    counted.push({ resource, max, place: size })
    size *= max + 1
  }
  if (capacity[below]! < members) add(below)
  // Sessions and relays, and what may be left out.
  for (let resource = sessions; resource <= leftOut; resource += 1)
    if (prices && prices[resource]! > 0) add(resource)
  return { counted, size }
}

/** What a column uses of what is counted: as a budget, and whether a budget has it. */
export interface CountedUse {
  budget: number
  /** By budget, 1 where it has as much of everything. */
  fits: Uint8Array
}

/** The budget of which nothing is used yet. */
export const wholeBudget = ({ size }: Counting): number => size - 1

/** A column takes a microsecond or two. */
const columnsBetweenYields = 3000

/**
 * For each column in play of each subproblem what it uses of what is counted; alike ones share one.
 * Yields now and then, so that it can be stopped.
 */
export function* countedUses(
  subproblems: readonly Subproblem[],
  { counted, size }: Counting,
): Generator<void, CountedUse[][]> {
  const known = new Map<string, CountedUse>()
  const useOf = (amounts: readonly number[]): CountedUse => ({
    budget: counted.reduce((sum, { place }, index) => sum + place * amounts[index]!, 0),
    fits: Uint8Array.from({ length: size }, (_, budget) =>
      counted.every(
        ({ place, max }, index) => Math.floor(budget / place) % (max + 1) >= amounts[index]!,
      )
        ? 1
        : 0,
    ),
  })
  const uses: CountedUse[][] = []
  let since = 0
  for (const { columns, inPlay } of subproblems) {
    const { first, resource: used, amount } = columns.use
    const own: CountedUse[] = []
    for (const column of inPlay) {
      const amounts = counted.map(({ resource }) => {
        for (let entry = first[column]!; entry < first[column + 1]!; entry += 1)
          if (used[entry] === resource) return amount[entry]!
        return 0
      })
      const key = amounts.join()
      const use = known.get(key) ?? useOf(amounts)
      known.set(key, use)
      own.push(use)
      since += 1
      if (since < columnsBetweenYields) continue
      since = 0
      yield
    }
    uses.push(own)
  }
  return uses
}

/**
 * The best that those still to be served can be worth within a budget: of one subproblem those of each
 * state, of later subproblems everybody.
 */
export type BestRest = (subproblem: number, budget: number) => Float64Array

/**
 * `worth` says what a column is worth, given its subproblem and its place in play. Yields now and then, so
 * that it can be stopped.
 */
export function* bestRestOf(
  subproblems: readonly Subproblem[],
  { size }: Counting,
  uses: readonly (readonly CountedUse[])[],
  worth: (subproblem: number, at: number) => number,
): Generator<void, BestRest> {
  // From the last subproblem on, each with what the later ones are worth.
  let later = new Array<number>(size).fill(0)
  const bySubproblem: Float64Array[][] = subproblems.map(() => [])
  for (let index = subproblems.length - 1; index >= 0; index -= 1) {
    const subproblem = subproblems[index]!
    const ofSets = bestOfSets(subproblem, uses[index]!, (at) => worth(index, at))
    yield
    const best = yield* bestOfStates(subproblem, ofSets, later)
    bySubproblem[index] = best
    later = best.map((states) => states[fullState(subproblem)]!)
  }
  return (subproblem, budget) => bySubproblem[subproblem]![budget]!
}

/** What the columns of a set are worth at best that use the same of what is counted. */
interface BestOfUse {
  use: CountedUse
  worth: number
}

/** For each budget the best of every state; with nobody to be served, that of the later subproblems. */
function* bestOfStates(
  { states, firstMove, moveSet, moveTo }: Subproblem,
  ofSets: readonly (readonly BestOfUse[])[],
  later: readonly number[],
): Generator<void, Float64Array[]> {
  const best = later.map(() => new Float64Array(states.length).fill(-Infinity))
  let since = 0
  for (const [budget, worth] of later.entries()) {
    since += moveSet.length
    if (since > movesBetweenYields) {
      since = 0
      yield
    }
    best[budget]![0] = worth
    for (let state = 1; state < states.length; state += 1)
      for (let move = firstMove[state]!; move < firstMove[state + 1]!; move += 1)
        for (const { use, worth: own } of ofSets[moveSet[move]!]!) {
          if (use.fits[budget] === 0) continue
          const sum = own + best[budget - use.budget]![moveTo[move]!]!
          if (sum > best[budget]![state]!) best[budget]![state] = sum
        }
  }
  return best
}

function bestOfSets(
  { firstOfSet }: Subproblem,
  uses: readonly CountedUse[],
  worth: (at: number) => number,
): BestOfUse[][] {
  return Array.from({ length: firstOfSet.length - 1 }, (_, set) => {
    const best = new Map<CountedUse, number>()
    for (let at = firstOfSet[set]!; at < firstOfSet[set + 1]!; at += 1) {
      const use = uses[at]!
      best.set(use, Math.max(best.get(use) ?? -Infinity, worth(at)))
    }
    return [...best].map(([use, worthOfUse]) => ({ use, worth: worthOfUse }))
  })
}
