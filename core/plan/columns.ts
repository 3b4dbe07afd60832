import type { Choice, Problem } from './problem'

/**
 * Everything that one encode of a component could be, a column each: whom it serves, with what, and
 * what that uses. A member left out is a column too. Kept as arrays side by side, since there are
 * tens of thousands of them.
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
  score: Float64Array
  below: Int32Array
  leftOutWeight: Int32Array
  wire: Float64Array
  disk: Float64Array
  /** -1 for a member left out. */
  device: Int32Array
  load: Float64Array
  shape: Int32Array
  bitrate: Int32Array
  kbps: Float64Array
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

/**
 * Every column of a component: each group that one encode could serve, by each shape, device and
 * bitrate that all of it accept, and each owner left out.
 */
export function columnsOf(problem: Problem, members: readonly number[]): Columns {
  const columns = new ColumnWriter(problem, members)
  const parts: Member[] = members.map((demand, bit) => {
    const { picture, sound, choices } = problem.demands[demand]!
    return {
      bit,
      demand,
      sharing: { picture, sound },
      choices: new Map(choices.map((choice) => [choice.shape, choice])),
    }
  })
  for (const owner of new Set(members.map((demand) => problem.demands[demand]!.owner))) {
    const steps = parts.filter(({ demand }) => problem.demands[demand]!.owner === owner)
    if (!problem.demands[steps[0]!.demand]!.mustKeep) columns.addLeftOut(steps)
  }
  let groups = 0
  for (const key of sharingKeys(problem, parts)) {
    const joins = parts.map((member) => routesInto(problem, member, key))
    const extend = (at: number, group: Group): void => {
      if (groups >= mostGroups) return
      if (at === parts.length) {
        if (group.members.length === 0 || !isOwnKey(problem, group, key)) return
        groups += 1
        columns.addGroup(group)
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
  return columns.finish(groups < mostGroups)
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

/** Collects columns, leaving out those that another of the same group, device and frame rate beats. */
class ColumnWriter {
  private count = 0
  private fields = mapFields((name) => newField(name, 4096))
  private readonly routes: number[][] = []
  private readonly hasDiskForAll: boolean

  constructor(
    private readonly problem: Problem,
    private readonly members: readonly number[],
  ) {
    const largest = problem.demands.reduce(
      (sum, { choices }) =>
        sum + Math.max(0, ...choices.map(({ diskMegabytes }) => diskMegabytes?.at(-1) ?? 0)),
      0,
    )
    this.hasDiskForAll = largest <= problem.diskMegabytes
  }

  addLeftOut(steps: readonly Member[]): void {
    const row = this.newRow()
    this.fields.mask[row] = maskOf(steps)
    this.fields.group[row] = this.routes.push(steps.map(() => -1)) - 1
    this.fields.leftOutWeight[row] = this.problem.demands[steps[0]!.demand]!.priority
    for (const name of ['device', 'shape', 'bitrate'] as const) this.fields[name][row] = -1
  }

  addGroup({ members, routes, shapes }: Group): void {
    const { problem } = this
    const { bitratesKbps } = problem
    const mask = maskOf(members)
    const group = this.routes.push(routes) - 1
    const relays = routes.reduce((bits, route) => (route >= 0 ? bits | (1 << route) : bits), 0)
    const used = [...new Set(routes.filter((route) => route >= 0))]
    const demands = members.map(({ demand }) => problem.demands[demand]!)
    const fronts = problem.devices.map((): Front => ({ wires: [], scores: [], belows: [] }))
    const listed = shapes
      .flatMap((shape) =>
        problem.places[shape]!.filter(({ device }) =>
          demands.every(({ devices }) => devices === null || devices.includes(device)),
        ).map(({ device, load }) => ({ shape, device, load })),
      )
      .sort((a, b) => a.load - b.load)
    // The sums are the same on every device.
    const known = new Map<number, Sums>()
    for (const { shape, device, load } of listed) {
      const sums = known.get(shape) ?? this.sumsFor(members, routes, used, shape)
      known.set(shape, sums)
      const front = fronts[device]!
      const kept: number[] = []
      let at = 0
      for (let index = 0; index < sums.scores.length; index += 1) {
        const score = sums.scores[index]!
        if (score < 0) continue
        const wire = sums.wires[index]!
        while (at < front.wires.length && front.wires[at]! <= wire) at += 1
        const isBeaten =
          at > 0 && front.scores[at - 1]! >= score && front.belows[at - 1]! <= sums.belows[index]!
        const bitrate = sums.first + index
        if (isBeaten || (sums.isFree && index !== sums.best)) continue
        kept.push(index)
        const row = this.newRow()
        this.fields.mask[row] = mask
        this.fields.group[row] = group
        this.fields.relays[row] = relays
        this.fields.below[row] = sums.belows[index]!
        this.fields.leftOutWeight[row] = 0
        this.fields.device[row] = device
        this.fields.shape[row] = shape
        this.fields.bitrate[row] = bitrate
        this.fields.score[row] = score
        this.fields.wire[row] = wire
        this.fields.disk[row] = sums.disks[index]!
        this.fields.load[row] = load
        this.fields.kbps[row] = wire + sums.recordings * bitratesKbps[bitrate]!
      }
      if (kept.length > 0 && sums.recordings === 0) extendFront(front, sums, kept)
    }
  }

  /** What a group gets and uses at each bitrate of one shape. */
  private sumsFor(
    members: readonly Member[],
    routes: readonly number[],
    used: readonly number[],
    shape: number,
  ): Sums {
    const { problem } = this
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
    let best = -1
    for (let index = 0; index < length; index += 1) {
      if (wires[index]! > problem.uploadKbps || disks[index]! > problem.diskMegabytes)
        scores[index] = -1
      if (scores[index]! >= 0 && (best < 0 || scores[index]! > scores[best]!)) best = index
    }
    const isFree = recordings === members.length && this.hasDiskForAll
    return { first, scores, wires, belows, disks, recordings, best, isFree }
  }

  private newRow(): number {
    if (this.count === this.fields.mask.length)
      this.fields = mapFields((name) => {
        const old = this.fields[name]
        const larger = newField(name, old.length * 2)
        larger.set(old)
        return larger
      })
    this.count += 1
    return this.count - 1
  }

  finish(isComplete: boolean): Columns {
    const { members, count, routes, fields } = this
    return {
      members,
      count,
      routes,
      isComplete,
      ...mapFields((name) => fields[name].subarray(0, count)),
    } as Columns
  }
}

type FieldName = Exclude<keyof Columns, 'members' | 'count' | 'routes' | 'isComplete'>
type Fields = Record<FieldName, Int32Array | Float64Array>

/** The columns' fields, and which of them hold more than whole numbers of 32 bits. */
const fieldTypes = {
  mask: Int32Array,
  group: Int32Array,
  relays: Int32Array,
  below: Int32Array,
  leftOutWeight: Int32Array,
  device: Int32Array,
  shape: Int32Array,
  bitrate: Int32Array,
  score: Float64Array,
  wire: Float64Array,
  disk: Float64Array,
  load: Float64Array,
  kbps: Float64Array,
} as const satisfies Record<FieldName, unknown>

const newField = (name: FieldName, length: number): Int32Array | Float64Array =>
  new fieldTypes[name](length)

function mapFields(make: (name: FieldName) => Int32Array | Float64Array): Fields {
  const names = Object.keys(fieldTypes) as FieldName[]
  return Object.fromEntries(names.map((name) => [name, make(name)])) as Fields
}

/** The best scores so far on one device, by wire rate ascending, all at no more load than what comes. */
interface Front {
  wires: number[]
  scores: number[]
  belows: number[]
}

interface Sums {
  first: number
  scores: Int32Array
  wires: Int32Array
  belows: Int32Array
  disks: Int32Array
  recordings: number
  best: number
  /** Whether bits cost nothing: recordings alone, and room on the disk for the largest of all. */
  isFree: boolean
}

/** Merges what was kept of a shape into the front, both by wire rate. */
function extendFront(front: Front, sums: Sums, kept: readonly number[]): void {
  const [wires, scores, belows]: number[][] = [[], [], []]
  let at = 0
  let highest = -1
  const push = (wire: number, score: number, below: number): void => {
    if (score <= highest) return
    highest = score
    wires!.push(wire)
    scores!.push(score)
    belows!.push(below)
  }
  for (const index of kept) {
    const wire = sums.wires[index]!
    for (; at < front.wires.length && front.wires[at]! <= wire; at += 1)
      push(front.wires[at]!, front.scores[at]!, front.belows[at]!)
    push(wire, sums.scores[index]!, sums.belows[index]!)
  }
  for (; at < front.wires.length; at += 1)
    push(front.wires[at]!, front.scores[at]!, front.belows[at]!)
  Object.assign(front, { wires, scores, belows })
}

const maskOf = (members: readonly Member[]): number =>
  members.reduce((mask, { bit }) => mask | (1 << bit), 0)
