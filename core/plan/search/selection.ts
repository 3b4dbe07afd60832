import { firstAtLeast } from '../problem/choices'
import type { Assignment, PlannedEncode, Problem, Solution, Worth } from '../problem/problem'
import { solveKnapsack } from './bitrateKnapsack'
import { isIn, isSubset, setOf } from './bitSets'
import { type ColumnChoice, type ColumnsAndCurves, columnsAndCurves, type Weights } from './columns'
import type { SearchedComponent } from './components'
import { minPoint } from './curves'
import type { Encode, EncodeUses } from './planState'
import type { Found } from './structures'

export function weightsOf({ uploadKbps, demands, bitratesKbps }: Problem): Weights {
  const recordings = demands.reduce(
    (sum, { sound, count }) => sum + (sound === null ? count : 0),
    0,
  )
  const maxKbps = uploadKbps + (bitratesKbps.at(-1) ?? 0) * recordings + 1
  return { encode: maxKbps, scoreUnit: maxKbps * (demands.length + 1) }
}

/** What a plan is worth in a search. */
export const valueOf = ({ worth }: Solution, { scoreUnit, encode }: Weights): number =>
  worth.scoreUnits * scoreUnit - worth.encodes * encode - worth.kbps

export const columnsFor = (
  problem: Problem,
  components: readonly SearchedComponent[],
  choice: ColumnChoice = {},
): Generator<void, ColumnsAndCurves> =>
  columnsAndCurves(problem, components, weightsOf(problem), choice)

/** Whether every group that could be has its columns. */
export const areComplete = ({ components }: ColumnsAndCurves): boolean =>
  components.every(({ isComplete }) => isComplete)

export function solutionFrom(
  problem: Problem,
  { components, curves }: ColumnsAndCurves,
  { chosen }: Found,
): Solution {
  const encodes: PlannedEncode[] = []
  const assignments: Assignment[] = problem.demands.map((_, demand) => ({
    demand,
    encode: null,
    relay: null,
  }))
  const worth: Worth = { leftOutWeight: 0, belowFloor: 0, scoreUnits: 0, encodes: 0, kbps: 0 }
  let uploadKbps = 0
  let diskMegabytes = 0
  for (const { subproblem, column, point } of chosen) {
    const columns = components[subproblem]!
    worth.leftOutWeight += columns.leftOutWeight[column]!
    worth.belowFloor += columns.below[column]!
    if (columns.device[column]! < 0) continue
    const bitrate = curves.bitrate[point]!
    const bitrateKbps = problem.bitratesKbps[bitrate]!
    worth.encodes += 1
    worth.kbps += curves.wire[point]!
    uploadKbps += curves.wire[point]!
    const shape = columns.shape[column]!
    const routes = columns.routes[columns.group[column]!]!
    const served = columns.members.filter((_, bit) => isIn(columns.mask[column]!, bit))
    served.forEach((demand, index) => {
      const route = routes[index]!
      assignments[demand] = { demand, encode: encodes.length, relay: route < 0 ? null : route }
      const choice = problem.demands[demand]!.choices.find((each) => each.shape === shape)!
      worth.scoreUnits += choice.scores[bitrate - choice.first]!
      if (!choice.diskMegabytes) return
      diskMegabytes += choice.diskMegabytes[bitrate]!
      worth.kbps += bitrateKbps * problem.demands[demand]!.count
    })
    const [device, load] = [columns.device[column]!, columns.load[column]!]
    encodes.push({ shape, device, load, bitrateKbps })
  }
  return { assignments, encodes, worth, uploadKbps, diskMegabytes }
}

/** A plan as a selection of columns, each encode at the lowest bitrate of its column; null where one of them is no column. */
export function selectionOf(
  uses: EncodeUses,
  { components, curves }: ColumnsAndCurves,
  encodes: readonly Encode[],
): Found | null {
  const placeOf = new Map<number, { subproblem: number; bit: number }>()
  components.forEach(({ members }, subproblem) =>
    members.forEach((demand, bit) => placeOf.set(demand, { subproblem, bit })),
  )
  const served = new Set<number>()
  const chosen: Found['chosen'] = []
  let value = 0
  const take = (subproblem: number, column: number): void => {
    const point = minPoint(curves, components[subproblem]!.curve[column]!)
    chosen.push({ subproblem, column, point })
    value += curves.value[point]!
  }
  for (const encode of encodes) {
    const { serves, shape, device } = encode
    const { uploadKbps, diskMegabytes } = uses.of(encode)!
    const places = serves.map((each) => ({ ...placeOf.get(each.demand)!, relay: each.relay ?? -1 }))
    places.sort((a, b) => a.bit - b.bit)
    const { subproblem } = places[0]!
    const columns = components[subproblem]!
    const mask = setOf(places.map(({ bit }) => bit))
    let own = -1
    // They are sorted by mask.
    for (let column = firstAtLeast(columns.mask, mask); column < columns.count; column += 1) {
      if (columns.mask[column] !== mask) break
      if (columns.shape[column] !== shape) continue
      if (columns.device[column] !== device) continue
      const routes = columns.routes[columns.group[column]!]!
      if (routes.some((route, index) => route !== places[index]!.relay)) continue
      // Where more bits are above the floor, or fill the disk, is another column, and stands after it.
      const minKbps = curves.wire[minPoint(curves, columns.curve[column]!)]!
      if (minKbps <= uploadKbps && columns.disk[column]! <= diskMegabytes) own = column
    }
    if (own < 0) return null
    take(subproblem, own)
    for (const { demand } of serves) served.add(demand)
  }
  for (const [subproblem, columns] of components.entries()) {
    let left = setOf(columns.members.flatMap((demand, bit) => (served.has(demand) ? [] : [bit])))
    // Of those that may be left out together, the more come later.
    for (let column = columns.count - 1; column >= 0 && left !== 0; column -= 1) {
      const mask = columns.mask[column]!
      if (columns.device[column]! >= 0 || !isSubset(mask, left)) continue
      take(subproblem, column)
      left -= mask
    }
    if (left !== 0) return null
  }
  return { value, chosen }
}

/** A plan with its bitrates as high as the upload allows to the best effect. */
export function atBestBitrates(
  { components, curves }: ColumnsAndCurves,
  plan: Found,
  uploadKbps: number,
) {
  const own = plan.chosen.map(({ subproblem, column }) => components[subproblem]!.curve[column]!)
  const settled = solveKnapsack(curves, own, uploadKbps, -Infinity)
  if (!settled) return plan
  return {
    value: settled.value,
    chosen: plan.chosen.map((each, index) => ({ ...each, point: settled.points[index]! })),
  }
}
