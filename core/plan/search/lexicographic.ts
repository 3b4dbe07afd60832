import type { Solution } from '../problem/problem'
import { bitratesToTry } from './bitratesToTry'
import { lastEncodes } from './lastPlan'
import {
  carryOut,
  excessOf,
  lessBy,
  type Limits,
  type Move,
  type State,
  stateOf,
  tolerance,
} from './moves'
import {
  type Encode,
  encodesOfSolution,
  type EncodeUse,
  type EncodeUses,
  solutionOfEncodes,
} from './planState'

/**
 * What is made small among plans that are nearly the best, the weightiest first, and up to which share
 * of the margin each may give up score. A plan stays as it is within all of it. One that is made anew
 * leaves some for the aims after the weightiest, and for staying as it is when little changes.
 */
const secondaryAims = {
  changedCells: 1,
  processorLoad: 0.5,
  otherLoad: 0.5,
  encodes: 0.6,
  unrounded500: 0.8,
  unrounded250: 0.8,
  unrounded100: 0.8,
  kbps: 0.8,
} as const satisfies Partial<Record<keyof EncodeUse, number>>
type Aim = keyof typeof secondaryAims
const aims = Object.keys(secondaryAims) as Aim[]

/** Below 0 where the first use is better by the secondary aims. */
function compareBySecondaryAims(a: EncodeUse, b: EncodeUse): number {
  for (const aim of aims) {
    const difference = a[aim] - b[aim]
    if (Math.abs(difference) > tolerance) return difference
  }
  return 0
}

/** What a plan has to keep to: how far it may stay below the highest score, and how many below the floor. */
export interface Terms {
  /** No plan has more. */
  highestScoreUnits: number
  marginUnits: number
  maxBelow: number
}

const limitsOf = (
  { highestScoreUnits, marginUnits, maxBelow }: Terms,
  shareOfMargin: number,
): Limits => ({ minScoreUnits: highestScoreUnits - marginUnits * shareOfMargin, maxBelow })

/**
 * Among plans that keep to the terms the one that is best by the secondary aims, as far as a descent
 * finds it: from the best plan, and from the last plan as it was, encodes are changed one at a time or
 * two are made one, for one aim after the other, each without giving up what is reached for those
 * before it; of several changes the one that costs least score for what it brings. Where the last
 * plan keeps to the terms it is taken whole. What is found keeps to the terms for certain; that no
 * other is better by these aims is not proven. Yields between changes, so that it can be stopped.
 */
export function* lexicographicPhase(
  uses: EncodeUses,
  best: Solution,
  terms: Terms,
): Generator<null, Solution> {
  const fromBest = stateOf(uses, encodesOfSolution(uses.problem, best))
  if (!fromBest) return best
  const lastPlan = lastEncodes(uses, fromBest.encodes)
  const fromLast = lastPlan && stateOf(uses, lastPlan)
  if (fromLast && fromLast.total.changedCells === 0 && keepsTo(uses, fromLast, terms))
    return solutionOfEncodes(uses, fromLast.encodes)
  let chosen = yield* descended(uses, fromBest, terms)
  const repaired = fromLast && (yield* repairedTo(uses, fromLast, terms))
  if (repaired) {
    const other = yield* descended(uses, repaired, terms)
    if (compareBySecondaryAims(other.total, chosen.total) < 0) chosen = other
  }
  return solutionOfEncodes(uses, chosen.encodes)
}

/** A plan that is there stays within the whole margin. */
const keepsTo = (uses: EncodeUses, state: State, terms: Terms): boolean =>
  excessOf(uses, state, limitsOf(terms, 1), null) === 0

/** Makes a plan that keeps to its terms smaller in one aim after the other. */
function* descended(uses: EncodeUses, start: State, terms: Terms): Generator<null, State> {
  const state = { ...start }
  for (const [level, aim] of aims.entries()) {
    const own = limitsOf(terms, secondaryAims[aim])
    // What an earlier aim gave up beyond that stays given up, but no more is.
    const limits = {
      ...own,
      minScoreUnits: Math.min(own.minScoreUnits, state.total.scoreUnits),
    }
    for (;;) {
      let chosen: Move | null = null
      let bestRatio = 0
      const wanted = { aim, minScoreUnits: limits.minScoreUnits }
      yield* forEachMove(uses, state, wanted, (move) => {
        const gain = gainOf(state, move, level)
        if (gain <= tolerance) return
        // What costs nothing comes before all that costs something.
        const cost = Math.max(0, lessBy(state, move, 'scoreUnits'))
        const ratio = gain / (cost + 0.01)
        if (ratio <= bestRatio || excessOf(uses, state, limits, move) > 0) return
        bestRatio = ratio
        chosen = move
      })
      yield null
      if (!chosen) break
      carryOut(state, chosen)
    }
  }
  return state
}

/** How much a move makes an aim smaller; 0 where it makes one before it larger. */
function gainOf(state: State, move: Move, level: number): number {
  for (let index = 0; index <= level; index += 1) {
    const less = lessBy(state, move, aims[index]!)
    if (less < -tolerance) return 0
    // What an earlier aim gains on the way is taken as well.
    if (less > tolerance) return less
  }
  return 0
}

/** Changes what the last plan set until it keeps to the terms, as few cells as it takes; null where that leads nowhere. */
function* repairedTo(uses: EncodeUses, start: State, terms: Terms): Generator<null, State | null> {
  const state = { ...start }
  const limits = limitsOf(terms, 1)
  let excess = excessOf(uses, state, limits, null)
  for (let rounds = 4 * state.encodes.length; excess > 0 && rounds > 0; rounds -= 1) {
    let chosen: Move | null = null
    let bestRatio = 0
    let left = excess
    yield* forEachMove(uses, state, anyMove, (move) => {
      const nextExcess = excessOf(uses, state, limits, move)
      if (nextExcess >= excess) return
      const changes = Math.max(0, -lessBy(state, move, 'changedCells'))
      const ratio = (excess - nextExcess) / (changes + 0.1)
      if (ratio > bestRatio) {
        bestRatio = ratio
        chosen = move
        left = nextExcess
      }
    })
    yield null
    if (!chosen) return null
    carryOut(state, chosen)
    excess = left
  }
  return excess > 0 ? null : state
}

/** So many shapes and bitrates are looked at between two chances to stop. */
const looksBetweenYields = 4000

/** Which changes are looked for: those that might make an aim smaller, with null all, and leave a plan worth so much. */
interface WantedMoves {
  aim: Aim | null
  minScoreUnits: number
}
const anyMove: WantedMoves = { aim: null, minScoreUnits: -Infinity }

/** What an encode has to be worth that takes the place of some. */
const unitsInsteadOf = (
  { total, uses }: State,
  { minScoreUnits }: WantedMoves,
  replaced: readonly number[],
): number =>
  replaced.reduce((sum, index) => sum + uses[index]!.scoreUnits, minScoreUnits - total.scoreUnits)

/** Shows every change that is wanted. Yields now and then, so that it can be stopped. */
function* forEachMove(
  uses: EncodeUses,
  state: State,
  wanted: WantedMoves,
  show: (move: Move) => void,
): Generator<null, void> {
  const { aim } = wanted
  let looked = 0
  const isTime = (more: number): boolean => {
    looked += more
    if (looked < looksBetweenYields) return false
    looked = 0
    return true
  }
  for (let index = 0; index < state.encodes.length; index += 1)
    if (isTime(forEachChange(uses, state, { ...wanted, index }, show))) yield null
  if (aim !== 'processorLoad' && aim !== 'otherLoad' && aim !== 'encodes') return
  const keys = state.encodes.map((encode) => sharingKeyOf(uses, encode))
  for (let index = 0; index < state.encodes.length; index += 1)
    if (isTime(forEachMerger(uses, state, { ...wanted, index, keys }, show))) yield null
}

/** One encode in another shape, on another device or at another bitrate. Returns how much it looked at. */
function forEachChange(
  uses: EncodeUses,
  state: State,
  { index, ...wanted }: WantedMoves & { index: number },
  show: (move: Move) => void,
): number {
  const { aim } = wanted
  const own = state.encodes[index]!
  const { serves } = own
  const before = state.uses[index]!
  if (aim === 'changedCells' && before.changedCells === 0) return 0
  const maxChanged = aim === null ? Infinity : before.changedCells - Number(aim === 'changedCells')
  const isAboutBitrate = aim !== null && aims.indexOf(aim) > aims.indexOf('encodes')
  const shapes = isAboutBitrate ? [own.shape] : uses.shapesFor(serves)
  const replaced = [index]
  const minUnits = unitsInsteadOf(state, wanted, replaced)
  const { devices } = uses.problem
  let looked = 0
  for (const shape of shapes) {
    const row = uses.rowFor(serves, shape)
    looked += 1
    // Most shapes give up too much of the score at any bitrate.
    if (!row || row.maxScoreUnits < minUnits) continue
    let bitrates: readonly number[] | null = null
    for (const place of row.places) {
      const { device, load } = place
      if (isAboutBitrate && device !== own.device) continue
      if (!isAboutBitrate && !canLessen(aim, before, load, devices[device]!.isProcessor)) continue
      // No aim is worth a cell more; looked at first, since it rules most out of what was planned before.
      if (uses.changedBesideBitrate(row, device) > maxChanged) continue
      bitrates ??= bitratesToTry(uses, state.total, own, row)
      looked += bitrates.length
      for (const bitrate of bitrates) {
        if (uses.changedCells(row, device, bitrate) > maxChanged) continue
        const use = uses.useAt(row, place, bitrate)
        if (use && use.scoreUnits >= minUnits)
          show({ replaced, by: { serves, shape, device, bitrate }, use })
      }
    }
  }
  return looked
}

/** Whether an encode with such a load may be better than the one before by an aim about loads and encodes, or by one before these. */
function canLessen(
  aim: Aim | null,
  before: EncodeUse,
  load: number,
  isProcessor: boolean,
): boolean {
  if (aim === null || aim === 'changedCells') return true
  const lessProcessorLoad = before.processorLoad - (isProcessor ? load : 0)
  if (lessProcessorLoad < -tolerance) return false
  if (before.changedCells > 0 || lessProcessorLoad > tolerance) return true
  return aim !== 'processorLoad' && before.otherLoad - (isProcessor ? 0 : load) > tolerance
}

/** What two encodes have to have in common to be made one; null where what is sent is for nobody else. */
function sharingKeyOf(
  { problem: { demands, relays } }: EncodeUses,
  { serves }: Encode,
): string | null {
  const [{ demand, relay }] = serves as [Encode['serves'][number]]
  if (!demands[demand]!.shares) return null
  const { picture } = relay === null ? demands[demand]! : relays[relay]!
  const sound = serves
    .map((each) => (each.relay === null ? demands[each.demand]! : relays[each.relay]!).sound)
    .find((each) => each !== null)
  return JSON.stringify([picture, sound ?? null])
}

/** An encode made one with each of those after it, in the shape and on the device of either. Returns how much it looked at. */
function forEachMerger(
  uses: EncodeUses,
  state: State,
  { index, keys, ...wanted }: WantedMoves & { index: number; keys: readonly (string | null)[] },
  show: (move: Move) => void,
): number {
  const first = state.encodes[index]!
  if (keys[index] === null) return 0
  let looked = 0
  for (let other = index + 1; other < state.encodes.length; other += 1) {
    if (keys[other] !== keys[index]) continue
    const second = state.encodes[other]!
    const serves = [...first.serves, ...second.serves]
    const replaced = [index, other]
    const minUnits = unitsInsteadOf(state, wanted, replaced)
    const accepted = new Set(uses.shapesFor(serves))
    for (const own of [first, second]) {
      if (!accepted.has(own.shape)) continue
      const row = uses.rowFor(serves, own.shape)
      if (!row || row.maxScoreUnits < minUnits) continue
      for (const place of row.places) {
        const { device } = place
        if (device !== first.device && device !== second.device) continue
        for (const bitrate of bitratesToTry(uses, state.total, { ...own, serves }, row)) {
          const use = uses.useAt(row, place, bitrate)
          looked += 1
          if (use && use.scoreUnits >= minUnits)
            show({ replaced, by: { serves, shape: own.shape, device, bitrate }, use })
        }
      }
    }
  }
  return looked
}
