import { setOf } from './bitSets'
import { type ColumnUse, columnUseOf } from './columnUse'
import type { SearchedComponent } from './components'
import { CurveWriter, type Curves } from './curves'
import {
  type Group,
  groupsOf,
  leftOutOf,
  maskOf,
  type Member,
  membersOf,
  type Served,
} from './groups'
import { earnedTogether } from '../problem/earning'
import type { Choice, Problem } from '../problem/problem'
import { resourceLayoutOf } from './resources'
import { addAccepted, addTo } from './sums'

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
  /** Whom the encodes of a plan serve: they get columns, whatever else is left out where there are too many. */
  known?: readonly Served[]
}

/**
 * The columns of every component, and the curves that they refer to. Yields now and then, so that it can
 * be stopped.
 */
export function* columnsAndCurves(
  problem: Problem,
  components: readonly SearchedComponent[],
  weights: Weights,
  { isWhole = false, known = [] }: ColumnChoice = {},
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
  { isWhole, isAll, known }: { isWhole: boolean; isAll: boolean; known: readonly Served[] },
): Generator<void, Columns> {
  const { groups, isComplete } = yield* groupsOf(problem, members, known)
  const leftOut = isWhole ? [] : leftOutOf(problem, members)
  const written = [
    ...leftOut.map((steps) => ({
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
  private readonly sums: Sums

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
    this.sums = newSums(problem.bitratesKbps.length)
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
    const relays = setOf(relaysOf(routes))
    const devices = [
      ...members.map(({ demand }) => problem.demands[demand]!.devices),
      ...routes.flatMap((relay) => (relay >= 0 ? [problem.relays[relay]!.devices] : [])),
    ]
    const isAllowed = problem.devices.map((_, device) =>
      devices.every((allowed) => allowed?.includes(device) ?? true),
    )
    this.sums.wiresAt.clear()
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
    const { uploadKbps, diskMegabytes, bitratesKbps } = problem
    const choices = group.members.map((member) => member.choices[shape]!)
    sumUp(sums, problem, group, choices, isWhole)
    const { first, end, scores, disks, recordings, aboveFrom } = sums
    const wires = sums.wiresAt.get(problem.shapes[shape]!.framesPerSecond)!
    if (first >= end) return []
    const earned = earnedTogether(problem.shapes, choices, group.shapes, sums)
    const added: { curve: number; below: number; disk: number }[] = []
    let [left, below, disk] = [aboveFrom.length, sumOfCounts(aboveFrom), 0]
    const close = (): void => {
      const curve = curves.end()
      if (curve !== null) added.push({ curve, below, disk })
    }
    for (let bitrate = first; bitrate < end; bitrate += 1) {
      const wire = wires[bitrate]!
      // The higher the bitrate, the less a path carries it.
      if (wire < 0 || wire > uploadKbps || disks[bitrate]! > diskMegabytes) break
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

/** What a group gets and uses in one shape, at the bitrates from `first` up to `end`; written over for every shape. */
interface Sums {
  first: number
  end: number
  /** -1 where a bitrate is not accepted. */
  scores: Int32Array
  /** By frame rate: what the group takes at each bitrate, whatever the shape is otherwise; -1 where a path does not carry it. */
  wiresAt: Map<number, Int32Array>
  disks: Int32Array
  recordings: number
  /** For each member that may be below the floor the bitrate from which on it is not, ascending, and how many it stands for. */
  aboveFrom: { from: number; count: number }[]
}

const sumOfCounts = (members: readonly { count: number }[]): number =>
  members.reduce((sum, { count }) => sum + count, 0)

const newSums = (length: number): Sums => ({
  first: 0,
  end: 0,
  scores: new Int32Array(length),
  wiresAt: new Map(),
  disks: new Int32Array(length),
  recordings: 0,
  aboveFrom: [],
})

/** With `isWhole` only from the bitrate on from which nobody is below the floor. */
function sumUp(
  sums: Sums,
  { demands, relays, shapes }: Problem,
  { members, routes }: Group,
  choices: readonly Choice[],
  isWhole: boolean,
): void {
  const { scores } = sums
  const { shape } = choices[0]!
  const relayed = relaysOf(routes).map((relay) => relays[relay]!.wires.get(shape)!)
  let [first, end] = [0, scores.length]
  for (const choice of choices) {
    first = Math.max(first, choice.first)
    end = Math.min(end, choice.first + choice.scores.length)
  }
  for (const relay of relayed) {
    first = Math.max(first, relay.first)
    end = Math.min(end, relay.end)
  }
  sums.aboveFrom = []
  if (isWhole) for (const { aboveFrom } of members) first = Math.max(first, aboveFrom[shape]!)
  else
    sums.aboveFrom = members
      .map(({ aboveFrom, demand }) => ({ from: aboveFrom[shape]!, count: demands[demand]!.count }))
      .sort((a, b) => a.from - b.from)
  sums.first = first
  sums.end = end
  sums.recordings = 0
  if (first >= end) return
  scores.fill(0, first, end)
  sums.disks.fill(0, first, end)
  choices.forEach((choice, member) => {
    addAccepted(scores, choice.scores, { offset: choice.first, first, end })
    if (!choice.diskMegabytes) return
    sums.recordings += demands[members[member]!.demand]!.count
    addTo(sums.disks, choice.diskMegabytes, first, end)
  })
  const { framesPerSecond } = shapes[shape]!
  if (sums.wiresAt.has(framesPerSecond)) return
  const wires = new Int32Array(scores.length)
  sums.wiresAt.set(framesPerSecond, wires)
  const all = { offset: 0, first: 0, end: wires.length }
  choices.forEach(({ wireKbps }, member) => {
    if (routes[member]! < 0) addAccepted(wires, wireKbps, all)
  })
  for (const { wireKbps } of relayed) addAccepted(wires, wireKbps, all)
}

const relaysOf = (routes: readonly number[]): number[] => [
  ...new Set(routes.filter((route) => route >= 0)),
]
