import { countedUses, countingOf, wholeBudget } from './bestRest'
import { solveKnapsack } from './bitrateKnapsack'
import { addUse, costOfUse } from './columnUse'
import type { Node } from './reducedCostFixing'
import type { Resources } from './resources'
import type { Chosen, Found } from './structures'
import { fullState, type Subproblem } from './subproblems'

export interface UploadProgram {
  /** No plan is worth more. */
  upper: number
  /** The columns of the plan that reaches it; what is priced may not be enough for it, and its points are those of the bound. */
  chosen: Chosen[]
}

/** How closely the upload is looked at. */
export interface ProgramSize {
  /** It is divided into so many parts at most; what a point takes is rounded down to whole parts. */
  maxParts: number
  /** What would take more sums than this is not begun. */
  maxSums: number
}
/** Up to about two seconds. */
const fineProgram: ProgramSize = { maxParts: 8000, maxSums: 2e9 }
/** Up to about a quarter of a second. */
export const coarseProgram: ProgramSize = { maxParts: 2000, maxSums: 2.5e8 }
/** What would have to be kept of more worths than this, 64 MB, is not begun either. */
const maxKept = 8e6
/** So many sums are made between two chances to stop. */
const sumsBetweenYields = 2e6
const columnsBetweenYields = 800
/** So many parts take as long to go through as one column. */
const partsAsOneColumn = 200

/** What a set can be worth that uses the same of what is counted: ever more parts of the upload for ever more. */
interface SetCurve {
  /** What it takes of the counted resources, as a budget, and which budgets have that. */
  taken: number
  fits: Uint8Array
  parts: Int32Array
  worth: Float64Array
  column: Int32Array
  point: Int32Array
}

/**
 * An upper bound on the worth of every plan in which the upload is limited and not priced, as are the
 * resources that are counted; all others have the prices of a node's bound. A dynamic program over what
 * is left of the upload: that curves are not concave, and encodes come as wholes, costs it nothing, which
 * leaves gaps of several points in the Lagrangian bound. null where it would take too long. Yields now and
 * then, so that it can be stopped.
 */
export function* uploadProgram(
  { subproblems, bound }: Node,
  resources: Resources,
  { maxParts, maxSums }: ProgramSize = fineProgram,
): Generator<void, UploadProgram | null> {
  const { capacity, upload } = resources
  const counting = countingOf(subproblems, resources, bound.prices)
  const part = Math.max(1, Math.ceil(capacity[upload]! / maxParts))
  const parts = Math.floor(capacity[upload]! / part) + 1
  const prices = bound.prices.slice()
  prices[upload] = 0
  for (const { resource } of counting.counted) prices[resource] = 0
  const uses = yield* countedUses(subproblems, counting)
  const curves: SetCurve[][][] = []
  for (const [index, subproblem] of subproblems.entries()) {
    yield
    curves.push(yield* curvesOfSets(subproblem, uses[index]!, prices, { part, parts }))
  }
  const sums = subproblems.reduce(
    (sum, { moveSet }, index) =>
      sum +
      moveSet.reduce(
        (all, set) =>
          all + curves[index]![set]!.reduce((own, curve) => own + curve.parts.length, 0),
        0,
      ),
    0,
  )
  const kept = subproblems.reduce((all, { states }) => all + states.length, 0)
  if (sums * parts * counting.size > maxSums || kept * parts * counting.size > maxKept) return null

  let since = 0
  /** By subproblem, state and budget the best worth for each number of parts that is left. */
  const best: Float64Array[][][] = subproblems.map(() => [])
  let later: Float64Array[] = Array.from({ length: counting.size }, () => new Float64Array(parts))
  for (let index = subproblems.length - 1; index >= 0; index -= 1) {
    const { states, firstMove, moveSet, moveTo } = subproblems[index]!
    const byState = best[index]!
    byState.push(later)
    for (let state = 1; state < states.length; state += 1) {
      const own: Float64Array[] = []
      for (let budget = 0; budget < counting.size; budget += 1) {
        const worths = new Float64Array(parts).fill(-Infinity)
        for (let move = firstMove[state]!; move < firstMove[state + 1]!; move += 1)
          for (const curve of curves[index]![moveSet[move]!]!) {
            if (curve.fits[budget] === 0) continue
            raise(worths, curve, byState[moveTo[move]!]![budget - curve.taken]!)
            since += curve.parts.length * parts
            if (since < sumsBetweenYields) continue
            since = 0
            yield
          }
        own.push(worths)
      }
      byState.push(own)
    }
    later = byState.at(-1)!
  }

  let sold = 0
  for (let index = 0; index < capacity.length; index += 1) sold += prices[index]! * capacity[index]!
  const upper = sold + later[wholeBudget(counting)]![parts - 1]!
  if (upper === -Infinity) return { upper, chosen: [] }

  const chosen: Chosen[] = []
  let [budget, left] = [wholeBudget(counting), parts - 1]
  subproblems.forEach((subproblem, index) => {
    const { firstMove, moveSet, moveTo } = subproblem
    for (let state = fullState(subproblem); state > 0;) {
      const wanted = best[index]![state]![budget]![left]!
      let next: { curve: SetCurve; at: number; to: number } | null = null
      for (let move = firstMove[state]!; move < firstMove[state + 1]! && !next; move += 1)
        for (const curve of curves[index]![moveSet[move]!]!) {
          if (curve.fits[budget] === 0) continue
          const to = moveTo[move]!
          const rest = best[index]![to]![budget - curve.taken]!
          const at = curve.parts.findIndex(
            (taken, point) => taken <= left && wanted === curve.worth[point]! + rest[left - taken]!,
          )
          if (at >= 0) next = { curve, at, to }
        }
      const { curve, at, to } = next!
      chosen.push({ subproblem: index, column: curve.column[at]!, point: curve.point[at]! })
      budget -= curve.taken
      left -= curve.parts[at]!
      state = to
    }
  })
  return { upper, chosen }
}

/** The plan that a program found, at the best bitrates there are; null where it takes more of something than there is. */
export function settledProgram(
  subproblems: readonly Subproblem[],
  { capacity, upload }: Resources,
  { chosen }: UploadProgram,
): Found | null {
  const [first] = subproblems
  if (!first || chosen.length === 0) return null
  const used = new Float64Array(capacity.length)
  for (const { subproblem, column } of chosen)
    addUse(used, subproblems[subproblem]!.columns.use, column)
  if (used.some((amount, index) => amount > capacity[index]!)) return null
  const own = chosen.map(
    ({ subproblem, column }) => subproblems[subproblem]!.columns.curve[column]!,
  )
  const settled = solveKnapsack(first.curves, own, capacity[upload]!, -Infinity)
  return (
    settled && {
      value: settled.value,
      chosen: chosen.map((each, index) => ({ ...each, point: settled.points[index]! })),
    }
  )
}

/** Raises what a state is worth to what it is by one set and the best of the rest. */
function raise(worths: Float64Array, { parts, worth }: SetCurve, rest: Float64Array): void {
  for (let point = 0; point < parts.length; point += 1) {
    const [taken, own] = [parts[point]!, worth[point]!]
    for (let left = worths.length - 1; left >= taken; left -= 1) {
      const sum = own + rest[left - taken]!
      if (sum > worths[left]!) worths[left] = sum
    }
  }
}

/** For each set of a subproblem, and each way of using what is counted, its columns as one curve. */
function* curvesOfSets(
  { columns, curves, inPlay, firstOfSet }: Subproblem,
  uses: readonly { budget: number; fits: Uint8Array }[],
  prices: Float64Array,
  { part, parts }: { part: number; parts: number },
): Generator<void, SetCurve[][]> {
  const found: SetCurve[][] = []
  /** By part, written over for every use of every set. */
  const worth = new Float64Array(parts)
  const column = new Int32Array(parts)
  const point = new Int32Array(parts)
  let since = 0
  for (let set = 0; set + 1 < firstOfSet.length; set += 1) {
    const byUse = new Map<{ budget: number; fits: Uint8Array }, number[]>()
    for (let at = firstOfSet[set]!; at < firstOfSet[set + 1]!; at += 1) {
      const own = byUse.get(uses[at]!) ?? []
      own.push(inPlay[at]!)
      byUse.set(uses[at]!, own)
    }
    since += firstOfSet[set + 1]! - firstOfSet[set]! + (byUse.size * parts) / partsAsOneColumn
    if (since > columnsBetweenYields) {
      since = 0
      yield
    }
    const ofSet = [...byUse].map(([use, own]) => {
      worth.fill(-Infinity)
      for (const each of own) {
        const cost = costOfUse(prices, columns.use, each)
        const curve = columns.curve[each]!
        for (let at = curves.first[curve]!; at < curves.first[curve + 1]!; at += 1) {
          const taken = Math.floor(curves.wire[at]! / part)
          if (taken >= parts) break
          const value = curves.value[at]! - cost
          if (value <= worth[taken]!) continue
          worth[taken] = value
          column[taken] = each
          point[taken] = at
        }
      }
      let highest = -Infinity
      const rising: number[] = []
      for (let taken = 0; taken < parts; taken += 1)
        if (worth[taken]! > highest) {
          highest = worth[taken]!
          rising.push(taken)
        }
      return {
        taken: use.budget,
        fits: use.fits,
        parts: Int32Array.from(rising),
        worth: Float64Array.from(rising, (taken) => worth[taken]!),
        column: Int32Array.from(rising, (taken) => column[taken]!),
        point: Int32Array.from(rising, (taken) => point[taken]!),
      }
    })
    found.push(ofSet)
  }
  return found
}
