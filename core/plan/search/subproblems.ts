import { highOf, lowestIn, lowOf, setBelow } from './bitSets'
import type { Columns } from './columns'
import { type Curves, noCurves } from './curves'

/**
 * One component as the search sees it: its columns that are still in play, in sets that serve the
 * same members, and the ways in which those sets make up the whole. Members are served lowest first,
 * so that every partition into sets is one path from the state in which all are still to be served
 * to the one in which none is.
 */
export interface Subproblem {
  columns: Columns
  curves: Curves
  /** Indices into the columns, sorted by mask. */
  inPlay: Int32Array
  /** Set i is those of `inPlay` from `firstOfSet[i]` on, up to `firstOfSet[i + 1]`. */
  firstOfSet: Int32Array
  /** The set of members still to be served of every state that can be reached, ascending: none first, all last. */
  states: Float64Array
  /** The moves from state i are those from `firstMove[i]` on, up to `firstMove[i + 1]`: a set, and the state it leads to. */
  firstMove: Int32Array
  moveSet: Int32Array
  moveTo: Int32Array
}

/** The curves that all subproblems of a search share. */
export const curvesOf = (subproblems: readonly Subproblem[]): Curves =>
  subproblems[0]?.curves ?? noCurves

export const fullState = ({ states }: Subproblem): number => states.length - 1

/** So many sets are looked at between two chances to stop. */
const looksBetweenYields = 50_000

/** A search with more moves than this would take too much memory, and time before it begins. */
const maxMoves = 2_000_000

/**
 * Whether a search can hold all ways in which a component of so many members is made up of sets of
 * them. Yields now and then, so that it can be stopped.
 */
export function* canBeHeld(sets: Iterable<number>, members: number): Generator<void, boolean> {
  return (yield* findPaths([...new Set(sets)], members, maxMoves)) !== null
}

/** All that can still be to be served on the way from all members to none, in the order in which it was found. */
interface FoundPaths {
  states: number[]
  indexOf: Map<number, number>
  /** The moves from each state: a set, and the state that it leads to. */
  firstMove: number[]
  moveSet: number[]
  moveTo: number[]
}

/** For each member the sets, by their place in the list, of which it is the lowest. */
function setsByLowest(masks: readonly number[], members: number): Int32Array[] {
  const byLowest: number[][] = Array.from({ length: members }, () => [])
  masks.forEach((mask, set) => byLowest[lowestIn(mask)]!.push(set))
  return byLowest.map((sets) => Int32Array.from(sets))
}

/** null where that takes more moves than there may be. Yields now and then, so that it can be stopped. */
function* findPaths(
  masks: readonly number[],
  members: number,
  most = Infinity,
): Generator<void, FoundPaths | null> {
  const byLowest = setsByLowest(masks, members)
  const low = Int32Array.from(masks, lowOf)
  const high = Int32Array.from(masks, highOf)
  const states = [...new Set([0, setBelow(members)])]
  const indexOf = new Map(states.map((state, index) => [state, index]))
  const firstMove = [0, 0]
  const moveSet: number[] = []
  const moveTo: number[] = []
  let looked = 0
  for (let index = 1; index < states.length; index += 1) {
    const state = states[index]!
    const [notLow, notHigh] = [~lowOf(state), ~highOf(state)]
    const sets = byLowest[lowestIn(state)]!
    for (const set of sets) {
      if ((low[set]! & notLow) !== 0 || (high[set]! & notHigh) !== 0) continue
      const left = state - masks[set]!
      let to = indexOf.get(left)
      if (to === undefined) {
        to = states.push(left) - 1
        indexOf.set(left, to)
      }
      moveSet.push(set)
      moveTo.push(to)
    }
    firstMove.push(moveSet.length)
    if (moveSet.length > most) return null
    looked += sets.length
    if (looked < looksBetweenYields) continue
    looked = 0
    yield
  }
  return { states, indexOf, firstMove, moveSet, moveTo }
}

/** The same with its states in their order. */
function* inOrder(
  found: FoundPaths,
): Generator<void, Pick<Subproblem, 'states' | 'firstMove' | 'moveSet' | 'moveTo'>> {
  const states = Float64Array.from(found.states).sort()
  yield
  const indexFound = new Int32Array(states.length)
  const indexNow = new Int32Array(states.length)
  for (let now = 0; now < states.length; now += 1) {
    const index = found.indexOf.get(states[now]!)!
    indexFound[now] = index
    indexNow[index] = now
    if ((now + 1) % looksBetweenYields === 0) yield
  }
  const firstMove = new Int32Array(states.length + 1)
  const moveSet = new Int32Array(found.moveSet.length)
  const moveTo = new Int32Array(found.moveTo.length)
  yield
  let [move, looked] = [0, 0]
  for (let now = 0; now < states.length; now += 1) {
    const index = indexFound[now]!
    for (let each = found.firstMove[index]!; each < found.firstMove[index + 1]!; each += 1) {
      moveSet[move] = found.moveSet[each]!
      moveTo[move] = indexNow[found.moveTo[each]!]!
      move += 1
    }
    firstMove[now + 1] = move
    if (move - looked < looksBetweenYields) continue
    looked = move
    yield
  }
  return { states, firstMove, moveSet, moveTo }
}

/** A component with the given columns, sorted by mask, in play. Yields now and then, so that it can be stopped. */
export function* subproblemOf(
  columns: Columns,
  curves: Curves,
  inPlay: Int32Array,
): Generator<void, Subproblem> {
  const masks: number[] = []
  const firstOfSet: number[] = []
  inPlay.forEach((column, at) => {
    const mask = columns.mask[column]!
    if (masks.at(-1) === mask) return
    masks.push(mask)
    firstOfSet.push(at)
  })
  firstOfSet.push(inPlay.length)
  const found = (yield* findPaths(masks, columns.members.length))!
  const { states, firstMove, moveSet, moveTo } = yield* inOrder(found)
  return {
    columns,
    curves,
    inPlay,
    firstOfSet: Int32Array.from(firstOfSet),
    states,
    firstMove,
    moveSet,
    moveTo,
  }
}

/** So many moves are looked at between two chances to stop. */
const movesBetweenYields = 20_000

/**
 * The same component with only some of its columns in play, sorted by mask; `isKept` has 1 for each
 * that is in play now and stays. What leads nowhere is no state of it. Yields now and then, so that it
 * can be stopped.
 */
export function* restricted(
  subproblem: Subproblem,
  isKept: Uint8Array,
): Generator<void, Subproblem> {
  const { columns, curves, firstOfSet, states, firstMove, moveSet, moveTo } = subproblem
  const inPlay = subproblem.inPlay.filter((_, at) => isKept[at] === 1)
  if (inPlay.length === subproblem.inPlay.length) return subproblem
  const sets = firstOfSet.length - 1
  /** The new number of each set; -1 for one of which nothing is left. */
  const setNow = new Int32Array(sets).fill(-1)
  const firsts: number[] = []
  for (let set = 0, place = 0; set < sets; set += 1) {
    const from = place
    for (let at = firstOfSet[set]!; at < firstOfSet[set + 1]!; at += 1) place += isKept[at]!
    if (place > from) setNow[set] = firsts.push(from) - 1
  }
  firsts.push(inPlay.length)

  let looked = 0
  /** Whether it is time to let others in, after the moves of one more state. */
  const isTime = (state: number): boolean => {
    looked += firstMove[state + 1]! - firstMove[state]!
    if (looked < movesBetweenYields) return false
    looked = 0
    return true
  }
  // A state is kept that is reached from the one in which all are still to be served, and from which
  // the one is reached in which none is.
  const leads = new Uint8Array(states.length)
  leads[0] = 1
  const isOpen = (move: number): boolean => setNow[moveSet[move]!]! >= 0
  for (let state = 1; state < states.length; state += 1) {
    for (let move = firstMove[state]!; move < firstMove[state + 1]! && !leads[state]; move += 1)
      if (isOpen(move) && leads[moveTo[move]!]) leads[state] = 1
    if (isTime(state)) yield
  }
  const full = states.length - 1
  const isIn = new Uint8Array(states.length)
  isIn[0] = isIn[full] = 1
  const isTaken = (move: number): boolean => isOpen(move) && leads[moveTo[move]!] === 1
  for (let state = full; state > 0; state -= 1) {
    if (!isIn[state]) continue
    for (let move = firstMove[state]!; move < firstMove[state + 1]!; move += 1)
      if (isTaken(move)) isIn[moveTo[move]!] = 1
    if (isTime(state)) yield
  }
  const stateNow = new Int32Array(states.length)
  for (let state = 0, count = 0; state < states.length; state += 1) {
    stateNow[state] = count
    count += isIn[state]!
  }
  const [sources, targets, firstMoves] = [[] as number[], [] as number[], [0]]
  for (let state = 0; state < states.length; state += 1) {
    if (!isIn[state]) continue
    for (let move = firstMove[state]!; move < firstMove[state + 1]!; move += 1)
      if (isTaken(move)) {
        sources.push(setNow[moveSet[move]!]!)
        targets.push(stateNow[moveTo[move]!]!)
      }
    firstMoves.push(sources.length)
    if (isTime(state)) yield
  }
  return {
    columns,
    curves,
    inPlay,
    firstOfSet: Int32Array.from(firsts),
    states: states.filter((_, state) => isIn[state] === 1),
    firstMove: Int32Array.from(firstMoves),
    moveSet: Int32Array.from(sources),
    moveTo: Int32Array.from(targets),
  }
}

/** Best sum of the sets that serve all members of each state, by state, and the first of those sets. */
export function bestPaths(
  { states, firstMove, moveSet, moveTo }: Subproblem,
  worthOfSet: Float64Array,
): { best: Float64Array; first: Int32Array } {
  const best = new Float64Array(states.length).fill(-Infinity)
  const first = new Int32Array(states.length).fill(-1)
  best[0] = 0
  for (let state = 1; state < states.length; state += 1) {
    const end = firstMove[state + 1]!
    // Kept by themselves: read from the arrays for every move they took half of the time.
    let [most, firstSet] = [-Infinity, -1]
    for (let move = firstMove[state]!; move < end; move += 1) {
      const set = moveSet[move]!
      const worth = worthOfSet[set]! + best[moveTo[move]!]!
      if (worth > most) {
        most = worth
        firstSet = set
      }
    }
    best[state] = most
    first[state] = firstSet
  }
  return { best, first }
}

/** For each set the best sum of all the others in a partition that it is subproblem of. */
export function bestAround(
  { states, firstOfSet, firstMove, moveSet, moveTo }: Subproblem,
  worthOfSet: Float64Array,
  best: Float64Array,
): Float64Array {
  const before = new Float64Array(states.length).fill(-Infinity)
  const around = new Float64Array(firstOfSet.length - 1).fill(-Infinity)
  before[states.length - 1] = 0
  for (let state = states.length - 1; state > 0; state -= 1) {
    const sofar = before[state]!
    // Nothing leads to it.
    if (sofar === -Infinity) continue
    const end = firstMove[state + 1]!
    for (let move = firstMove[state]!; move < end; move += 1) {
      const [set, to] = [moveSet[move]!, moveTo[move]!]
      const withSet = sofar + worthOfSet[set]!
      if (withSet > before[to]!) before[to] = withSet
      const without = sofar + best[to]!
      if (without > around[set]!) around[set] = without
    }
  }
  return around
}
