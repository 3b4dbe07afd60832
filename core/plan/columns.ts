import { CurveWriter, type Curves } from './curves'
import type { Choice, Problem } from './problem'

/**
 * Everything that one encode of a component could be but for its bitrate, a column each: whom it
 * serves, in which shape, on which device, and what that uses. A member left out is a column too.
 * Kept as arrays side by side, sorted by mask, since there are thousands of them.
 */
export interface Columns {
  /** The demands of the component; bit i of a mask stands for the i-th. */
  members: readonly number[]
  count: number
  mask: Int32Array
  /** How each member of the mask is reached, in their order: -1 directly, else the relay. Shared by the columns of a group. */
  routes: readonly (readonly number[])[]
  group: Int32Array
  /** The relays used, as bits. */
  relays: Int32Array
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
  /** Whether every group that could be was listed. */
  isComplete: boolean
}

/** Beyond so many groups within one component the larger ones are not looked at, and nothing is claimed proven. */
const mostGroups = 30_000

interface Member {
  bit: number
  demand: number
  sharing: { picture: string; sound: string | null }
  choices: Map<number, Choice>
}

/** One way in which a group is made up. */
interface Group {
  members: Member[]
  /** For each member the relay it is reached through, or -1. */
  routes: number[]
  shapes: number[]
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

/** Those that could share stand together, recordings last, so that a search has few states. */
const inOrder = ({ demands }: Problem, members: readonly number[]): number[] => {
  const keyOf = (demand: number): string => {
    const { picture, sound } = demands[demand]!
    return sound === null ? `1 ${picture}` : `0 ${picture} ${sound}`
  }
  return [...members].sort((a, b) => keyOf(a).localeCompare(keyOf(b)) || a - b)
}

/** The columns of every component, and the curves that they refer to. */
export function columnsAndCurves(
  problem: Problem,
  components: readonly (readonly number[])[],
  weights: Weights,
): ColumnsAndCurves {
  const curves = new CurveWriter()
  return {
    components: components.map((members) =>
      columnsOf(problem, inOrder(problem, members), weights, curves),
    ),
    curves: curves.finish(),
  }
}

/**
 * Every column of a component: each group that one encode could serve, by each shape and device that
 * all of it accept, and each owner left out.
 */
function columnsOf(
  problem: Problem,
  members: readonly number[],
  weights: Weights,
  curves: CurveWriter,
): Columns {
  const columns = new ColumnWriter(problem, members, weights, curves)
  const parts: Member[] = members.map((demand, bit) => {
    const { picture, sound, choices } = problem.demands[demand]!
    return {
      bit,
      demand,
      sharing: { picture, sound },
      choices: new Map(choices.map((choice) => [choice.shape, choice])),
    }
  })
  const groups: Group[] = []
  const takesMore = takesMoreOf()
  for (const key of sharingKeys(problem, parts)) {
    const joins = parts.map((member) => routesInto(problem, member, key))
    const extend = (at: number, group: Group): void => {
      if (groups.length >= mostGroups) return
      if (at === parts.length) {
        if (group.members.length === 0 || !isOwnKey(problem, group, key)) return
        if (!feedsTheRight(problem, group, takesMore)) return
        groups.push(group)
        return
      }
      extend(at + 1, group)
      const member = parts[at]!
      const demand = problem.demands[member.demand]!
      const isOpen =
        group.members.length === 0 ||
        (demand.shares && problem.demands[group.members[0]!.demand]!.shares)
      if (!isOpen) return
      const shapes =
        group.members.length === 0
          ? [...member.choices.keys()]
          : group.shapes.filter((shape) => member.choices.has(shape))
      if (shapes.length === 0) return
      for (const route of joins[at]!) {
        if (route >= 0) {
          const relay = problem.relays[route]!
          if (group.routes.filter((other) => other === route).length >= relay.mostFed) continue
        }
        const fitting =
          route < 0 ? shapes : shapes.filter((shape) => problem.relays[route]!.wires.has(shape))
        if (fitting.length === 0) continue
        extend(at + 1, {
          members: [...group.members, member],
          routes: [...group.routes, route],
          shapes: fitting,
        })
      }
    }
    extend(0, { members: [], routes: [], shapes: [] })
  }
  const written: (Group | Pick<Group, 'members'>)[] = [...leftOutOf(problem, parts), ...groups]
  written.sort((a, b) => maskOf(a.members) - maskOf(b.members))
  for (const each of written) {
    if ('routes' in each) columns.addGroup(each)
    else columns.addLeftOut(each.members)
  }
  return columns.finish(groups.length < mostGroups)
}

/** The demands that may be left out, those of one owner together. */
function leftOutOf(problem: Problem, parts: readonly Member[]): Pick<Group, 'members'>[] {
  const ownerOf = ({ demand }: Member): string => problem.demands[demand]!.owner
  return parts
    .filter(
      (member, index) => parts.findIndex((other) => ownerOf(other) === ownerOf(member)) === index,
    )
    .filter(({ demand }) => !problem.demands[demand]!.mustKeep)
    .map((first) => ({ members: parts.filter((member) => ownerOf(member) === ownerOf(first)) }))
}

interface SharingKey {
  picture: string
  /** null for a group of recordings alone. */
  sound: string | null
}

function sharingKeys(problem: Problem, parts: readonly Member[]): SharingKey[] {
  const keys = new Map<string, SharingKey>()
  const add = (key: SharingKey): unknown => keys.set(JSON.stringify([key.picture, key.sound]), key)
  for (const { demand, sharing } of parts) {
    const { direct, relays } = problem.demands[demand]!
    if (direct) add(sharing)
    for (const relay of relays) {
      const { picture, sound } = problem.relays[relay]!
      add({ picture, sound })
    }
  }
  return [...keys.values()]
}

/** The ways in which a member can join an encode of this key: -1 for directly, else the relay. */
function routesInto(problem: Problem, { demand, sharing }: Member, key: SharingKey): number[] {
  const { direct, relays } = problem.demands[demand]!
  const isAlike =
    sharing.picture === key.picture && (sharing.sound === null || sharing.sound === key.sound)
  return [
    ...(direct && isAlike ? [-1] : []),
    ...relays.filter((relay) => {
      const { picture, sound } = problem.relays[relay]!
      return picture === key.picture && sound === key.sound
    }),
  ]
}

/** Recordings alone make a group of their own key only, so that no group is listed twice. */
function isOwnKey(problem: Problem, group: Group, key: SharingKey): boolean {
  const areRecordings = group.members.every(({ demand }) => problem.demands[demand]!.sound === null)
  return areRecordings === (key.sound === null)
}

/**
 * Whether no other routes of the same members are sure to be better. A relay that is sent to feeds as
 * many as it may, since another direct send would only take upload; and of those that it could feed
 * the ones that would take most.
 */
function feedsTheRight(
  { demands, relays }: Problem,
  { members, routes, shapes }: Group,
  takesMore: (a: Member, b: Member, shapes: readonly number[]) => boolean,
): boolean {
  return routes.every((relay, fed) => {
    if (relay < 0) return true
    const { mostFed } = relays[relay]!
    const isFull = routes.filter((route) => route === relay).length >= mostFed
    return members.every((member, index) => {
      if (routes[index]! >= 0 || !demands[member.demand]!.relays.includes(relay)) return true
      return isFull && !takesMore(member, members[fed]!, shapes)
    })
  })
}

/** Whether one member's direct send takes at least as much as another's in every one of the shapes; of two alike the first. */
function takesMoreOf(): (a: Member, b: Member, shapes: readonly number[]) => boolean {
  const known = new Map<Int32Array, Map<Int32Array, boolean>>()
  const isAsMuch = (a: Choice, b: Choice): boolean => {
    const ofA = known.get(a.wireKbps) ?? new Map<Int32Array, boolean>()
    known.set(a.wireKbps, ofA)
    const answer = ofA.get(b.wireKbps)
    if (answer !== undefined) return answer
    const from = Math.max(a.first, b.first)
    const to = Math.min(a.first + a.wireKbps.length, b.first + b.wireKbps.length)
    let holds = true
    for (let bitrate = from; bitrate < to && holds; bitrate += 1)
      holds = a.wireKbps[bitrate - a.first]! >= b.wireKbps[bitrate - b.first]!
    ofA.set(b.wireKbps, holds)
    return holds
  }
  const all = (a: Member, b: Member, shapes: readonly number[]): boolean =>
    shapes.every((shape) => isAsMuch(a.choices.get(shape)!, b.choices.get(shape)!))
  return (a, b, shapes) => all(a, b, shapes) && (a.bit < b.bit || !all(b, a, shapes))
}

/** Collects the columns of one component; they have to come sorted by mask. */
class ColumnWriter {
  private count = 0
  private fields = mapFields((name) => new fieldTypes[name](1024))
  private readonly routes: (readonly number[])[] = []
  private readonly isDiskScarce: boolean
  private readonly leftOutCurve: number

  constructor(
    private readonly problem: Problem,
    private readonly members: readonly number[],
    private readonly weights: Weights,
    private readonly curves: CurveWriter,
  ) {
    const largest = problem.demands.reduce(
      (sum, { choices }) =>
        sum + Math.max(0, ...choices.map(({ diskMegabytes }) => diskMegabytes?.at(-1) ?? 0)),
      0,
    )
    this.isDiskScarce = largest > problem.diskMegabytes
    curves.add(0, 0, -1)
    this.leftOutCurve = curves.end()!
  }

  addLeftOut(steps: readonly Member[]): void {
    const row = this.newRow()
    const { fields } = this
    fields.mask[row] = maskOf(steps)
    fields.group[row] = this.routes.push(steps.map(() => -1)) - 1
    fields.leftOutWeight[row] = this.problem.demands[steps[0]!.demand]!.priority
    fields.device[row] = -1
    fields.shape[row] = -1
    fields.curve[row] = this.leftOutCurve
  }

  addGroup({ members, routes, shapes }: Group): void {
    const { problem } = this
    const mask = maskOf(members)
    const group = this.routes.push(routes) - 1
    const relays = routes.reduce((bits, route) => (route >= 0 ? bits | (1 << route) : bits), 0)
    const used = [...new Set(routes.filter((route) => route >= 0))]
    const isAllowed = problem.devices.map((_, device) =>
      members.every(({ demand }) => problem.demands[demand]!.devices?.includes(device) ?? true),
    )
    for (const shape of shapes) {
      const places = problem.places[shape]!.filter(({ device }) => isAllowed[device])
      if (places.length === 0) continue
      for (const { curve, below, disk } of this.addCurves(members, routes, used, shape))
        for (const { device, load } of places) {
          const row = this.newRow()
          const { fields } = this
          fields.mask[row] = mask
          fields.group[row] = group
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
  private addCurves(
    members: readonly Member[],
    routes: readonly number[],
    used: readonly number[],
    shape: number,
  ): { curve: number; below: number; disk: number }[] {
    const { problem, curves, weights, isDiskScarce } = this
    const sums = sumsFor(problem, members, routes, used, shape)
    const { first, scores, wires, belows, disks, recordings } = sums
    const added: { curve: number; below: number; disk: number }[] = []
    let [below, disk] = [-1, -1]
    const end = (): void => {
      const curve = curves.end()
      if (curve !== null) added.push({ curve, below, disk })
    }
    for (let index = 0; index < scores.length; index += 1) {
      const wire = wires[index]!
      if (scores[index]! < 0 || wire > problem.uploadKbps) continue
      if (disks[index]! > problem.diskMegabytes) continue
      const ownDisk = isDiskScarce ? disks[index]! : 0
      if (belows[index]! !== below || ownDisk !== disk) {
        end()
        below = belows[index]!
        disk = ownDisk
      }
      const bitrate = first + index
      const kbps = wire + recordings * problem.bitratesKbps[bitrate]!
      curves.add(wire, scores[index]! * weights.scoreUnit - weights.encode - kbps, bitrate)
    }
    end()
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
    const { members, count, routes, fields } = this
    const rows = mapFields((name) => fields[name].subarray(0, count))
    return { members, count, routes, isComplete, ...rows } as Columns
  }
}

/** The columns' fields, and which of them hold more than whole numbers of 32 bits. */
const fieldTypes = {
  mask: Int32Array,
  group: Int32Array,
  relays: Int32Array,
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

function mapFields(make: (name: FieldName) => Int32Array | Float64Array): Fields {
  const names = Object.keys(fieldTypes) as FieldName[]
  return Object.fromEntries(names.map((name) => [name, make(name)])) as Fields
}

/** What a group gets and uses in one shape, over the bitrates from `first` on; a score of -1 where it is not accepted. */
interface Sums {
  first: number
  scores: Int32Array
  wires: Int32Array
  belows: Int32Array
  disks: Int32Array
  recordings: number
}

function sumsFor(
  problem: Problem,
  members: readonly Member[],
  routes: readonly number[],
  used: readonly number[],
  shape: number,
): Sums {
  const choices = members.map((member) => member.choices.get(shape)!)
  const relayed = used.map((relay) => problem.relays[relay]!.wires.get(shape)!)
  const first = Math.max(
    ...choices.map((choice) => choice.first),
    ...relayed.map((relay) => relay.first),
  )
  const to = Math.min(
    ...choices.map((choice) => choice.first + choice.scores.length),
    ...relayed.map((relay) => relay.first + relay.wireKbps.length),
  )
  const length = Math.max(0, to - first)
  const scores = new Int32Array(length)
  const wires = new Int32Array(length)
  const belows = new Int32Array(length)
  const disks = new Int32Array(length)
  let recordings = 0
  choices.forEach((choice, member) => {
    const { floorUnits } = problem.demands[members[member]!.demand]!
    const isDirect = routes[member]! < 0
    if (choice.diskMegabytes) recordings += 1
    const offset = first - choice.first
    for (let index = 0; index < length; index += 1) {
      const units = choice.scores[index + offset]!
      if (units < 0) scores[index] = -1
      if (scores[index]! < 0) continue
      scores[index]! += units
      if (units < floorUnits) belows[index]! += 1
      if (choice.diskMegabytes) disks[index]! += choice.diskMegabytes[index + offset]!
      if (isDirect) wires[index]! += choice.wireKbps[index + offset]!
    }
  })
  for (const relay of relayed) {
    const offset = first - relay.first
    for (let index = 0; index < length; index += 1) {
      const wire = relay.wireKbps[index + offset]!
      if (wire < 0) scores[index] = -1
      else wires[index]! += wire
    }
  }
  return { first, scores, wires, belows, disks, recordings }
}

const maskOf = (members: readonly Member[]): number =>
  members.reduce((mask, { bit }) => mask | (1 << bit), 0)
