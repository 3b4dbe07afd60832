import type { Part } from './bounds'
import { type Columns, columnsOf } from './columns'
import { componentsOf } from './components'
import type { Found } from './labels'
import { type Optimum, optimise } from './optimise'
import type { Assignment, PlannedEncode, Problem, Solution, Worth } from './problem'
import { resourcesOf } from './resources'

export interface Progress {
  /** The best plan so far; null before there is one. */
  solution: Solution | null
  /** Whether no better plan exists. With no solution: whether none exists at all. */
  isProven: boolean
  /** How many score units better a plan could still be; 0 when proven, null where not known. */
  gapScoreUnits: number | null
}

/** How much one unit of each aim outweighs all that a plan can have of the lesser ones. */
interface Weights {
  score: number
  encode: number
}

function weightsOf({ uploadKbps, demands, bitratesKbps }: Problem): Weights {
  const recordings = demands.filter(({ sound }) => sound === null).length
  const mostKbps = uploadKbps + (bitratesKbps.at(-1) ?? 0) * recordings + 1
  return { encode: mostKbps, score: mostKbps * (demands.length + 1) }
}

const worthOfColumns = (columns: Columns, { score, encode }: Weights): Float64Array =>
  columns.score.map((units, column) =>
    columns.device[column]! < 0 ? 0 : units * score - encode - columns.kbps[column]!,
  )

const allOf = ({ count }: Columns): Int32Array => Int32Array.from({ length: count }, (_, at) => at)

function sortedByMask(columns: Columns, picked: Int32Array): Int32Array {
  return picked.sort((a, b) => columns.mask[a]! - columns.mask[b]! || a - b)
}

/** Without anybody left out or below the floor, or with at most so many. */
function partsFor(
  all: readonly Columns[],
  weights: Weights,
  most: { leftOutWeight: number; belowFloor: number },
): Part[] {
  return all.map((columns) => ({
    columns,
    value: worthOfColumns(columns, weights),
    inPlay: sortedByMask(
      columns,
      allOf(columns).filter(
        (column) =>
          columns.leftOutWeight[column]! <= most.leftOutWeight &&
          columns.below[column]! <= most.belowFloor,
      ),
    ),
  }))
}

/**
 * The same problem with only the two weightiest aims: whom to leave out, and who is below the floor.
 * Of the columns for one group and device only those that use least are kept.
 */
function partsForShortfall(all: readonly Columns[], demands: number): Part[] {
  return all.map((columns) => {
    const fronts = new Map<string, number[]>()
    const isAsFrugal = (a: number, b: number): boolean =>
      columns.wire[a]! <= columns.wire[b]! &&
      columns.load[a]! <= columns.load[b]! &&
      columns.disk[a]! <= columns.disk[b]!
    for (let column = 0; column < columns.count; column += 1) {
      const key = `${columns.mask[column]} ${columns.device[column]} ${columns.relays[column]} ${columns.below[column]} ${columns.group[column]}`
      const front = fronts.get(key) ?? []
      if (front.some((kept) => isAsFrugal(kept, column))) continue
      fronts.set(key, [...front.filter((kept) => !isAsFrugal(column, kept)), column])
    }
    return {
      columns,
      value: Float64Array.from(
        columns.below,
        (below, column) => -(columns.leftOutWeight[column]! * (demands + 1) + below),
      ),
      inPlay: sortedByMask(columns, Int32Array.from([...fronts.values()].flat())),
    }
  })
}

function solutionFrom(problem: Problem, all: readonly Columns[], { chosen }: Found): Solution {
  const encodes: PlannedEncode[] = []
  const assignments: Assignment[] = problem.demands.map((_, demand) => ({
    demand,
    encode: null,
    relay: null,
  }))
  const worth: Worth = { leftOutWeight: 0, belowFloor: 0, scoreUnits: 0, encodes: 0, kbps: 0 }
  let uploadKbps = 0
  let diskMegabytes = 0
  for (const [part, column] of chosen) {
    const columns = all[part]!
    worth.leftOutWeight += columns.leftOutWeight[column]!
    worth.belowFloor += columns.below[column]!
    worth.scoreUnits += columns.score[column]!
    worth.kbps += columns.kbps[column]!
    uploadKbps += columns.wire[column]!
    diskMegabytes += columns.disk[column]!
    if (columns.device[column]! < 0) continue
    worth.encodes += 1
    const routes = columns.routes[columns.group[column]!]!
    const served = columns.members.filter((_, bit) => columns.mask[column]! & (1 << bit))
    served.forEach((demand, index) => {
      const route = routes[index]!
      assignments[demand] = { demand, encode: encodes.length, relay: route < 0 ? null : route }
    })
    encodes.push({
      shape: columns.shape[column]!,
      device: columns.device[column]!,
      load: columns.load[column]!,
      bitrateKbps: problem.bitratesKbps[columns.bitrate[column]!]!,
    })
  }
  return { assignments, encodes, worth, uploadKbps, diskMegabytes }
}

/** The plan that leaves out least and then has fewest below the floor, whatever its scores. */
function leastShortfall(problem: Problem, all: readonly Columns[]): Optimum {
  const run = optimise(
    partsForShortfall(all, problem.demands.length),
    resourcesOf(problem, { leftOutWeight: 1e6, belowFloor: 1e6 }),
  )
  for (;;) {
    const step = run.next()
    if (step.done) return step.value
  }
}

/** Whether a plan exists that leaves nobody out. */
export function fitsWhole(problem: Problem): boolean {
  const all = componentsOf(problem).map((members) => columnsOf(problem, members))
  const { found } = leastShortfall(problem, all)
  return found !== null && solutionFrom(problem, all, found).worth.leftOutWeight === 0
}

/**
 * Finds the best plan: the fewest left out, weighed by priority; the fewest below the floor; the
 * highest Σ priority × score; the fewest encodes; the fewest kb/s. Yields every better plan as it is
 * found, and returns the last with whether it is proven to be the best.
 */
export function* solving(problem: Problem): Generator<Progress, Progress> {
  const all = componentsOf(problem).map((members) => columnsOf(problem, members))
  const isComplete = all.every((columns) => columns.isComplete)
  const weights = weightsOf(problem)
  const progress = ({ found, most, isProven }: Optimum, isLast: boolean): Progress => ({
    solution: found && solutionFrom(problem, all, found),
    isProven: isLast && isProven && isComplete,
    gapScoreUnits:
      isLast && isProven && isComplete
        ? 0
        : found && isComplete
          ? Math.ceil((most - found.value) / weights.score)
          : null,
  })
  function* best(
    most: { leftOutWeight: number; belowFloor: number },
    start: Found | null,
  ): Generator<Progress, Optimum> {
    const isOneLookEnough = start === null
    const parts = partsFor(all, weights, most)
    const run = optimise(parts, resourcesOf(problem, most), start, { isOneLookEnough })
    for (;;) {
      const step = run.next()
      if (step.done) return step.value
      yield progress(step.value, false)
    }
  }

  // Most shows fit whole, which one look tells; else the shortfall is settled first.
  const nobody = { leftOutWeight: 0, belowFloor: 0 }
  const whole = yield* best(nobody, null)
  if (whole.found) return progress(whole, true)

  const least = leastShortfall(problem, all)
  if (!least.found)
    return { solution: null, isProven: least.isProven && isComplete, gapScoreUnits: null }
  const { worth } = solutionFrom(problem, all, least.found)
  const parts = partsFor(all, weights, worth)
  const start: Found = {
    ...least.found,
    value: least.found.chosen.reduce((sum, [part, column]) => sum + parts[part]!.value[column]!, 0),
  }
  const last = yield* best(worth, start)
  return progress({ ...last, isProven: last.isProven && least.isProven }, true)
}

/** Solves to the end; see `solving`. */
export function solve(problem: Problem): Progress {
  const run = solving(problem)
  for (;;) {
    const step = run.next()
    if (step.done) return step.value
  }
}
