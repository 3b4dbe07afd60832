import { fullState, type Subproblem } from './subproblems'
import type { Resources } from './resources'

/** How many may be below the floor at most, where that matters; else nobody is counted. */
export interface BelowCount {
  isCounted: boolean
  max: number
}

/** It does not matter where nobody may be below the floor, since then no such column is in play, or everybody may. */
export function belowCount(
  subproblems: readonly Subproblem[],
  { capacity, below }: Resources,
): BelowCount {
  const members = subproblems.reduce((sum, { columns }) => sum + columns.members.length, 0)
  const isCounted = capacity[below]! > 0 && capacity[below]! < members
  return { isCounted, max: isCounted ? capacity[below]! : 0 }
}

/**
 * The best that those still to be served can be worth: of one subproblem those of each state, of later subproblems
 * everybody, where at most so many of them may be below the floor.
 */
export type BestRest = (subproblem: number, below: number) => Float64Array

/** `worth` says what a column is worth, given its subproblem and its place in play. */
export function bestRestOf(
  subproblems: readonly Subproblem[],
  count: BelowCount,
  worth: (subproblem: number, at: number) => number,
): BestRest {
  // From the last subproblem on, each with what the later ones are worth.
  let later = new Array<number>(count.max + 1).fill(0)
  const byPart: Float64Array[][] = subproblems.map(() => [])
  for (let index = subproblems.length - 1; index >= 0; index -= 1) {
    const subproblem = subproblems[index]!
    const ofSet = bestOfSets(subproblem, count, (at) => worth(index, at))
    const best = bestOfStates(subproblem, ofSet, later)
    byPart[index] = best
    later = best.map((states) => states[fullState(subproblem)]!)
  }
  return (subproblem, below) => byPart[subproblem]![below]!
}

/** For each number that may be below the floor the best of every state; with nobody to be served, that of the later subproblems. */
function bestOfStates(
  { states, firstMove, moveSet, moveTo }: Subproblem,
  ofSet: readonly Float64Array[],
  later: readonly number[],
): Float64Array[] {
  const best = later.map(() => new Float64Array(states.length).fill(-Infinity))
  later.forEach((worth, below) => {
    best[below]![0] = worth
    for (let state = 1; state < states.length; state += 1)
      for (let move = firstMove[state]!; move < firstMove[state + 1]!; move += 1)
        for (let own = 0; own <= below; own += 1) {
          const sum = ofSet[own]![moveSet[move]!]! + best[below - own]![moveTo[move]!]!
          if (sum > best[below]![state]!) best[below]![state] = sum
        }
  })
  return best
}

/** For each number of members below the floor the best column of each set. */
function bestOfSets(
  { columns, inPlay, firstOfSet }: Subproblem,
  { isCounted, max }: BelowCount,
  worth: (at: number) => number,
): Float64Array[] {
  const sets = firstOfSet.length - 1
  const best = Array.from({ length: max + 1 }, () => new Float64Array(sets).fill(-Infinity))
  for (let set = 0; set < sets; set += 1)
    for (let at = firstOfSet[set]!; at < firstOfSet[set + 1]!; at += 1) {
      const below = isCounted ? columns.below[inPlay[at]!]! : 0
      if (below <= max) best[below]![set] = Math.max(best[below]![set]!, worth(at))
    }
  return best
}
