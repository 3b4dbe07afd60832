import { fullState, type Part } from './parts'
import type { Resources } from './resources'

/** How many may be below the floor at most, where that matters; else nobody is counted. */
export interface BelowCount {
  isCounted: boolean
  most: number
}

/** It does not matter where nobody may be below the floor, since then no such column is in play, or everybody may. */
export function belowCount(parts: readonly Part[], { capacity, below }: Resources): BelowCount {
  const members = parts.reduce((sum, { columns }) => sum + columns.members.length, 0)
  const isCounted = capacity[below]! > 0 && capacity[below]! < members
  return { isCounted, most: isCounted ? capacity[below]! : 0 }
}

/**
 * The best that those still to be served can be worth: of one part those of each state, of later parts
 * everybody, where at most so many of them may be below the floor.
 */
export type BestRest = (part: number, below: number) => Float64Array

/** `worth` says what a column is worth, given its part and its place in play. */
export function bestRestOf(
  parts: readonly Part[],
  count: BelowCount,
  worth: (part: number, at: number) => number,
): BestRest {
  // From the last part on, each with what the later ones are worth.
  let later = new Array<number>(count.most + 1).fill(0)
  const byPart: Float64Array[][] = parts.map(() => [])
  for (let index = parts.length - 1; index >= 0; index -= 1) {
    const part = parts[index]!
    const ofSet = bestOfSets(part, count, (at) => worth(index, at))
    const best = bestOfStates(part, ofSet, later)
    byPart[index] = best
    later = best.map((states) => states[fullState(part)]!)
  }
  return (part, below) => byPart[part]![below]!
}

/** For each number that may be below the floor the best of every state; with nobody to be served, that of the later parts. */
function bestOfStates(
  { states, firstMove, moveSet, moveTo }: Part,
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
  { columns, inPlay, firstOfSet }: Part,
  { isCounted, most }: BelowCount,
  worth: (at: number) => number,
): Float64Array[] {
  const sets = firstOfSet.length - 1
  const best = Array.from({ length: most + 1 }, () => new Float64Array(sets).fill(-Infinity))
  for (let set = 0; set < sets; set += 1)
    for (let at = firstOfSet[set]!; at < firstOfSet[set + 1]!; at += 1) {
      const below = isCounted ? columns.below[inPlay[at]!]! : 0
      if (below <= most) best[below]![set] = Math.max(best[below]![set]!, worth(at))
    }
  return best
}
