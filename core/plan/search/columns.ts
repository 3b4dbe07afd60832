import { setOf } from './bitSets'
import { type ColumnUse, columnUseOf } from './columnUse'
import type { SearchedComponent } from './components'
import { CurveWriter, type Curves } from './curves'
import {
  type Group,
  type KnownPlans,
  maskOf,
  type Member,
  membersOf,
  noKnownPlans,
  setsOf,
} from './groups'
import { beginGroup, type GroupSums, newGroupSums, sumUp } from './groupSums'
import { earnedTogether } from '../problem/earning'
import type { Problem } from '../problem/problem'
import { resourceLayoutOf } from './resources'

/**
 * Everything that one encode of a component could be but for its bitrate, a column each: whom it
 * serves, in which shape, on which device, and what that uses. A member left out is a column too.
 * Kept as arrays side by side, sorted by mask, since there are thousands of them.
 */
export interface Columns {
  /** The demands of the component. */
  members: readonly number[]
  count: number
  /** The set of members, by their places, that each serves. */
  mask: Float64Array
  /** How each member of the mask is reached, in their order: -1 directly, else the relay. Shared by the columns of a group. */
  routes: readonly (readonly number[])[]
  group: Int32Array
  /** The set of relays used. */
  relays: Float64Array
  /** How many of the members are below the floor; the bitrates where that differs are another column. */
  below: Int32Array
  leftOutWeight: Int32Array
  /** Whole megabytes; 0 where there is room on the disk for the largest of all, so that it does not matter. */
  disk: Int32Array
  /** -1 for a member left out. */
  device: Int32Array
  load: Float64Array
  shape: Int32Array
  /** Which of the curves says what it is worth at each bitrate. */
  curve: Int32Array
  /** What each uses of all resources but the upload. */
  use: ColumnUse
  /** Whether every group that could be was listed. */
  isComplete: boolean
}

/** How much one unit of each aim outweighs all that a plan can have of the lesser ones; kb/s weigh 1. */
export interface Weights {
  scoreUnit: number
  encode: number
}

export interface ColumnsAndCurves {
  components: Columns[]
  curves: Curves
}

/** The columns of a group take a fraction of a millisecond to write. */
const groupsBetweenYields = 12

export interface ColumnChoice {
  /** Only those of which nobody is left out or below the floor, which are far fewer. */
  isWhole?: boolean
  /** Plans that there are: their encodes get columns, the best one's in any case. */
  known?: KnownPlans
}

/**
 * The columns of every component, and the curves that they refer to. Yields now and then, so that it can
 * be stopped.
 */
export function* columnsAndCurves(
  problem: Problem,
  components: readonly SearchedComponent[],
  weights: Weights,
  { isWhole = false, known = noKnownPlans }: ColumnChoice = {},
): Generator<void, ColumnsAndCurves> {
  const curves = new CurveWriter()
  const made: Columns[] = []
  for (const { demands, ranks, isWhole: isAll } of components) {
    yield
    const members = membersOf(problem, demands, ranks)
    const writer = new ColumnWriter(problem, members, weights, curves, isWhole)
    made.push(yield* columnsOf(problem, members, writer, { isWhole, isAll, known }))
  }
  return { components: made, curves: curves.finish() }
}

/**
 * Every column of a component: each group that one encode could serve, by each shape and device that
 * all of it accept, and whoever may be left out together.
 */
function* columnsOf(
  problem: Problem,
  members: readonly Member[],
  writer: ColumnWriter,
  { isWhole, isAll, known }: { isWhole: boolean; isAll: boolean; known: KnownPlans },
): Generator<void, Columns> {
  const { groups, leftOut, isComplete } = yield* setsOf(problem, members, known)
  const written = [
    ...(isWhole ? [] : leftOut).map((steps) => ({
      mask: maskOf(steps),
      write: () => writer.addLeftOut(steps),
    })),
    ...groups.map((group) => ({
      mask: maskOf(group.members),
      write: () => writer.addGroup(group),
    })),
  ]
  written.sort((a, b) => a.mask - b.mask)
  for (const [at, { write }] of written.entries()) {
    write()
    yield* writer.makingRoom()
    if (at % groupsBetweenYields === 0) yield
  }
  yield
  return writer.finish(isComplete && isAll)
}

/** Collects the columns of one component; they have to come sorted by mask. */
class ColumnWriter {
  private count = 0
  private fields = mapFields((name) => new fieldTypes[name](256))
  private readonly routes: (readonly number[])[] = []
  private readonly isDiskScarce: boolean
  private readonly leftOutCurve: number
  private readonly sums: GroupSums

  constructor(
    private readonly problem: Problem,
    private readonly members: readonly Member[],
    private readonly weights: Weights,
    private readonly curves: CurveWriter,
    private readonly isWhole: boolean,
  ) {
    const largest = problem.demands.reduce(
      (sum, { choices }) =>
        sum +
        Math.max(
          0,
          ...choices.map(
            ({ first, scores, diskMegabytes }) => diskMegabytes?.[first + scores.length - 1] ?? 0,
          ),
        ),
      0,
    )
    this.isDiskScarce = largest > problem.diskMegabytes
    curves.add(0, 0, -1)
    this.leftOutCurve = curves.end()!
    this.sums = newGroupSums(problem.bitratesKbps.length)
  }

  makingRoom = (): Generator<void, void> => this.curves.makingRoom()

  addLeftOut(steps: readonly Member[]): void {
    const row = this.newRow()
    const { fields } = this
    fields.mask[row] = maskOf(steps)
    fields.group[row] = this.routes.push(steps.map(() => -1)) - 1
    fields.leftOutWeight[row] = weightOf(this.problem, steps)
    fields.device[row] = -1
    fields.shape[row] = -1
    fields.curve[row] = this.leftOutCurve
  }

  addGroup(group: Group): void {
    const { problem } = this
    const { members, routes, shapes } = group
    const mask = maskOf(members)
    const number = this.routes.push(routes) - 1
    beginGroup(this.sums, group)
    const relays = setOf(this.sums.relays)
    const isAllowed = allowedDevices(problem, group, this.sums.relays)
    for (const shape of shapes) {
      const places = problem.places[shape]!.filter(({ device }) => isAllowed[device])
      if (places.length === 0) continue
      for (const { curve, below, disk } of this.addCurves(group, shape))
        for (const { device, load } of places) {
          const row = this.newRow()
          const { fields } = this
          fields.mask[row] = mask
          fields.group[row] = number
          fields.relays[row] = relays
          fields.below[row] = below
          fields.disk[row] = disk
          fields.device[row] = device
          fields.load[row] = load
          fields.shape[row] = shape
          fields.curve[row] = curve
        }
    }
  }

  /** The curves of a group in one shape: one for each number of members below the floor, and each use of a scarce disk. */
  private addCurves(group: Group, shape: number): { curve: number; below: number; disk: number }[] {
    const { problem, curves, isDiskScarce, isWhole, sums } = this
    const { scoreUnit, encode } = this.weights
    const { diskMegabytes, bitratesKbps } = problem
    sumUp(sums, problem, group, { shape, isWhole })
    const { choices, first, end, scores, wires, disks, recordings, aboveFrom } = sums
    if (first >= end) return []
    const isEarned = group.members.some(({ earnedFrom }) => earnedFrom[shape]! <= first)
    const earned = isEarned
      ? null
      : earnedTogether(problem.shapes, choices, group.shapes, { first, end })
    const added: { curve: number; below: number; disk: number }[] = []
    let left = aboveFrom.length
    let below = aboveFrom.reduce((sum, { count }) => sum + count, 0)
    let disk = 0
    const close = (): void => {
      const curve = curves.end()
      if (curve !== null) added.push({ curve, below, disk })
    }
    for (let bitrate = first; bitrate < end; bitrate += 1) {
      const wire = wires[bitrate]!
      if (disks[bitrate]! > diskMegabytes) break
      if (scores[bitrate]! < 0 || (earned !== null && earned[bitrate - first] === 0)) continue
      // The higher the bitrate the fewer are below the floor.
      if (left > 0 && aboveFrom[aboveFrom.length - left]!.from <= bitrate) {
        close()
        for (; left > 0 && aboveFrom[aboveFrom.length - left]!.from <= bitrate; left -= 1)
          below -= aboveFrom[aboveFrom.length - left]!.count
      }
      if (isDiskScarce && disks[bitrate]! !== disk) {
        close()
        disk = disks[bitrate]!
      }
      const kbps = wire + recordings * bitratesKbps[bitrate]!
      curves.add(wire, scores[bitrate]! * scoreUnit - encode - kbps, bitrate)
    }
    close()
    return added
  }

  private newRow(): number {
    if (this.count === this.fields.mask.length)
      this.fields = mapFields((name) => {
        const larger = new fieldTypes[name](this.count * 2)
        larger.set(this.fields[name])
        return larger
      })
    this.count += 1
    return this.count - 1
  }

  finish(isComplete: boolean): Columns {
    const { count, routes } = this
    const rows = mapFields((name) => this.fields[name].subarray(0, count)) as Rows
    // Named one by one, so that all columns are of one make: searches read them all the time.
    return {
      members: this.members.map(({ demand }) => demand),
      count,
      mask: rows.mask,
      routes,
      group: rows.group,
      relays: rows.relays,
      below: rows.below,
      leftOutWeight: rows.leftOutWeight,
      disk: rows.disk,
      device: rows.device,
      load: rows.load,
      shape: rows.shape,
      curve: rows.curve,
      use: columnUseOf({ count, ...rows }, resourceLayoutOf(this.problem)),
      isComplete,
    }
  }
}

/** Σ priority of whoever is left out, each owner once. */
function weightOf({ demands }: Problem, steps: readonly Member[]): number {
  const owners = new Map(
    steps.map(({ demand }) => {
      const { owner, priority, count } = demands[demand]!
      return [owner, priority * count]
    }),
  )
  return [...owners.values()].reduce((sum, weight) => sum + weight, 0)
}

/** By device, whether all of a group and of the relays that feed it may be encoded there. */
function allowedDevices(
  { demands, devices, relays }: Problem,
  { members }: Group,
  used: readonly number[],
): boolean[] {
  const allowed = [
    ...members.map(({ demand }) => demands[demand]!.devices),
    ...used.map((relay) => relays[relay]!.devices),
  ]
  return devices.map((_, device) => allowed.every((each) => each?.includes(device) ?? true))
}

/** The columns' fields, and which of them hold more than whole numbers of 32 bits. */
const fieldTypes = {
  mask: Float64Array,
  group: Int32Array,
  relays: Float64Array,
  below: Int32Array,
  leftOutWeight: Int32Array,
  disk: Int32Array,
  device: Int32Array,
  load: Float64Array,
  shape: Int32Array,
  curve: Int32Array,
} as const

type FieldName = keyof typeof fieldTypes
type Fields = Record<FieldName, Int32Array | Float64Array>
type Rows = Pick<Columns, FieldName>

function mapFields(make: (name: FieldName) => Int32Array | Float64Array): Fields {
  const names = Object.keys(fieldTypes) as FieldName[]
  return Object.fromEntries(names.map((name) => [name, make(name)])) as Fields
}
