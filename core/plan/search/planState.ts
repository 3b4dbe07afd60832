import type { Preferences } from '../problem/preferences'
import type { Choice, Problem, Solution } from '../problem/problem'
import { earnedTogether } from '../problem/earning'
import { addAccepted, addTo } from './sums'

/** One encode of a plan, and whom it serves. */
export interface Encode {
  serves: readonly { demand: number; relay: number | null }[]
  shape: number
  device: number
  /** Place in the bitrates of the problem. */
  bitrate: number
}

/** What one encode, or a whole plan, uses and is worth; a plan's is the sum of its encodes'. */
export interface EncodeUse {
  scoreUnits: number
  below: number
  uploadKbps: number
  diskMegabytes: number
  /** Cells that the last plan set otherwise. */
  changedCells: number
  processorLoad: number
  otherLoad: number
  encodes: number
  /** Bitrates that are no multiple of 500, of 250, of 100 kb/s. */
  unrounded500: number
  unrounded250: number
  unrounded100: number
  kbps: number
}

export const noUse: EncodeUse = {
  scoreUnits: 0,
  below: 0,
  uploadKbps: 0,
  diskMegabytes: 0,
  changedCells: 0,
  processorLoad: 0,
  otherLoad: 0,
  encodes: 0,
  unrounded500: 0,
  unrounded250: 0,
  unrounded100: 0,
  kbps: 0,
}

/** One use with another added, or with `times` -1 taken away. Written out: a plan is changed thousands of times. */
export const plus = (a: EncodeUse, b: EncodeUse, times = 1): EncodeUse => ({
  scoreUnits: a.scoreUnits + times * b.scoreUnits,
  below: a.below + times * b.below,
  uploadKbps: a.uploadKbps + times * b.uploadKbps,
  diskMegabytes: a.diskMegabytes + times * b.diskMegabytes,
  changedCells: a.changedCells + times * b.changedCells,
  processorLoad: a.processorLoad + times * b.processorLoad,
  otherLoad: a.otherLoad + times * b.otherLoad,
  encodes: a.encodes + times * b.encodes,
  unrounded500: a.unrounded500 + times * b.unrounded500,
  unrounded250: a.unrounded250 + times * b.unrounded250,
  unrounded100: a.unrounded100 + times * b.unrounded100,
  kbps: a.kbps + times * b.kbps,
})

/** What an encode of some in one shape is made of, at the bitrates from `first` up to, but without, `end`. */
export interface ShapeRow {
  serves: Encode['serves']
  shape: number
  /** The devices that it may run on, with the load there. */
  places: Problem['places'][number]
  choices: readonly Choice[]
  /** Of each send, to those served directly and to relays. */
  wires: readonly Int32Array[]
  first: number
  end: number
  /** From `first` on; null where the shape has earned its place at every bitrate. */
  earned: Uint8Array | null
  /** No bitrate is worth more to those served. */
  maxScoreUnits: number
  recordings: number
  table: ShapeTable | null
}

/** What the members of an encode get and take in one shape, over all bitrates. */
export interface ShapeTable {
  /** -1 where the bitrate is not accepted, not carried or not earned. */
  scoreUnits: Int32Array
  uploadKbps: Int32Array
  diskMegabytes: Int32Array
  below: Int32Array
  /** Those with a score, lowest first. */
  accepted: readonly number[]
}

/** What was looked up of those whom an encode serves together, by shape. */
interface Served {
  shapes: readonly number[] | null
  lastBitrates: readonly number[] | null
  rows: Map<number, ShapeRow | null>
  places: Map<number, Problem['places'][number]>
}

/** Bitrates are round at multiples of these. */
const roundStepsKbps = [500, 250, 100, 50] as const

/** The most that anybody gets at one of the bitrates from `first` up to `end`; more bits are never worth less. */
function maxUnitsOf({ first: offset, scores }: Choice, first: number, end: number): number {
  for (let at = end - 1; at >= first; at -= 1)
    if (scores[at - offset]! >= 0) return scores[at - offset]!
  return -1
}

/** What those served get together at a bitrate; -1 where it is not accepted, not carried or not earned. */
function unitsAt({ choices, wires, first, end, earned }: ShapeRow, bitrate: number): number {
  if (bitrate < first || bitrate >= end) return -1
  if (earned !== null && earned[bitrate - first] === 0) return -1
  for (const wire of wires) if (wire[bitrate]! < 0) return -1
  let units = 0
  for (const choice of choices) {
    const own = choice.scores[bitrate - choice.first]!
    if (own < 0) return -1
    units += own
  }
  return units
}

function uploadAt({ wires }: ShapeRow, bitrate: number): number {
  let kbps = 0
  for (const wire of wires) kbps += wire[bitrate]!
  return kbps
}

function diskAt({ choices }: ShapeRow, bitrate: number): number {
  let megabytes = 0
  for (const { diskMegabytes } of choices) megabytes += diskMegabytes?.[bitrate] ?? 0
  return megabytes
}

/** Counts a demand at each bitrate at which it is below the floor. */
function addBelow(
  below: Int32Array,
  { first: offset, scores }: Choice,
  { floorUnits, count }: Problem['demands'][number],
  { first, end }: Pick<ShapeRow, 'first' | 'end'>,
): void {
  for (let at = first; at < end; at += 1) if (scores[at - offset]! < floorUnits) below[at]! += count
}

/** Looks up what encodes use; what was looked up is kept. */
export class EncodeUses {
  private readonly served = new Map<string, Served>()
  /** The same by the list itself, which most changes of an encode leave as it is. */
  private readonly servedByList = new WeakMap<Encode['serves'], Served>()
  private readonly nothing: Int32Array
  private readonly round = new Map<number, readonly number[]>()
  private readonly places: ReadonlyMap<number, number>
  private readonly choices: readonly ReadonlyMap<number, Choice>[]
  private readonly isAnyPlanned: boolean

  constructor(
    readonly problem: Problem,
    readonly preferences: Preferences,
  ) {
    this.nothing = new Int32Array(problem.bitratesKbps.length)
    this.places = new Map(problem.bitratesKbps.map((kbps, place) => [kbps, place]))
    this.choices = problem.demands.map(
      ({ choices }) => new Map(choices.map((choice) => [choice.shape, choice])),
    )
    this.isAnyPlanned = preferences.last.some((cells) => cells !== null)
  }

  private servedFor(serves: Encode['serves']): Served {
    const byList = this.servedByList.get(serves)
    if (byList) return byList
    const key = keyOf(serves)
    const known = this.served.get(key) ?? {
      shapes: null,
      lastBitrates: null,
      rows: new Map(),
      places: new Map(),
    }
    this.served.set(key, known)
    this.servedByList.set(serves, known)
    return known
  }

  /** The shapes that all whom an encode serves accept, and the relays on the way. */
  shapesFor(serves: Encode['serves']): readonly number[] {
    const known = this.servedFor(serves)
    const [first] = serves
    known.shapes ??= [...this.choices[first!.demand]!.keys()].filter((shape) =>
      serves.every(
        ({ demand, relay }) =>
          this.choices[demand]!.has(shape) &&
          (relay === null || this.problem.relays[relay]!.wires.has(shape)),
      ),
    )
    return known.shapes
  }

  /** The devices that an encode may run on in a shape, with the load there. */
  placesFor(serves: Encode['serves'], shape: number): Problem['places'][number] {
    const known = this.servedFor(serves).places
    const kept = known.get(shape)
    if (kept) return kept
    const { demands, relays, places } = this.problem
    const found = places[shape]!.filter(({ device }) =>
      serves.every(
        ({ demand, relay }) =>
          (demands[demand]!.devices?.includes(device) ?? true) &&
          (relay === null || (relays[relay]!.devices?.includes(device) ?? true)),
      ),
    )
    known.set(shape, found)
    return found
  }

  /** null where there is no bitrate that all accept. */
  rowFor(serves: Encode['serves'], shape: number): ShapeRow | null {
    const { rows } = this.servedFor(serves)
    const known = rows.get(shape)
    if (known !== undefined) return known
    const row = this.rowOf(serves, shape)
    rows.set(shape, row)
    return row
  }

  private rowOf(serves: Encode['serves'], shape: number): ShapeRow | null {
    const { demands, relays, bitratesKbps, shapes } = this.problem
    const choices: Choice[] = []
    const wires: Int32Array[] = []
    let [first, end, recordings] = [0, bitratesKbps.length, 0]
    for (const { demand, relay } of serves) {
      const choice = this.choices[demand]!.get(shape)
      if (!choice) return null
      choices.push(choice)
      first = Math.max(first, choice.first)
      end = Math.min(end, choice.first + choice.scores.length)
      if (relay === null) wires.push(choice.wireKbps)
      if (choice.diskMegabytes) recordings += demands[demand]!.count
    }
    for (const relay of new Set(serves.flatMap((each) => each.relay ?? []))) {
      const sent = relays[relay]!.wires.get(shape)
      if (!sent) return null
      first = Math.max(first, sent.first)
      end = Math.min(end, sent.end)
      wires.push(sent.wireKbps)
    }
    if (first >= end) return null
    const places = this.placesFor(serves, shape)
    const earned = earnedTogether(shapes, choices, this.shapesFor(serves), { first, end })
    let maxScoreUnits = 0
    for (const choice of choices) maxScoreUnits += maxUnitsOf(choice, first, end)
    return {
      serves,
      shape,
      places,
      choices,
      wires,
      first,
      end,
      earned,
      maxScoreUnits,
      recordings,
      table: null,
    }
  }

  /** How many of those served are below the floor at a bitrate. */
  private belowAt({ serves, choices }: ShapeRow, bitrate: number): number {
    let below = 0
    for (let index = 0; index < choices.length; index += 1) {
      const { first, scores } = choices[index]!
      const { floorUnits, count } = this.problem.demands[serves[index]!.demand]!
      if (scores[bitrate - first]! < floorUnits) below += count
    }
    return below
  }

  /** The lowest bitrate that all whom an encode serves accept; -1 where there is none. */
  lowestBitrate(row: ShapeRow, isAboveFloor: boolean): number {
    for (let bitrate = row.first; bitrate < row.end; bitrate += 1)
      if (unitsAt(row, bitrate) >= 0 && (!isAboveFloor || this.belowAt(row, bitrate) === 0))
        return bitrate
    return -1
  }

  tableFor(serves: Encode['serves'], shape: number): ShapeTable | null {
    const row = this.rowFor(serves, shape)
    return row && this.tableOf(row)
  }

  /** The table of a row, made when it is first asked for. */
  tableOf(row: ShapeRow): ShapeTable {
    row.table ??= this.newTable(row)
    return row.table
  }

  private newTable(row: ShapeRow): ShapeTable {
    const { serves, choices, wires, first, end, earned, recordings } = row
    const { length } = this.problem.bitratesKbps
    const scoreUnits = new Int32Array(length).fill(-1)
    const uploadKbps = new Int32Array(length)
    const below = new Int32Array(length)
    // Most encodes are not recorded.
    const diskMegabytes = recordings > 0 ? new Int32Array(length) : this.nothing
    scoreUnits.fill(0, first, end)
    for (const wire of wires) addAccepted(uploadKbps, wire, { offset: 0, first, end })
    choices.forEach((choice, index) => {
      addAccepted(scoreUnits, choice.scores, { offset: choice.first, first, end })
      if (choice.diskMegabytes) addTo(diskMegabytes, choice.diskMegabytes, first, end)
      addBelow(below, choice, this.problem.demands[serves[index]!.demand]!, row)
    })
    const accepted: number[] = []
    for (let bitrate = first; bitrate < end; bitrate += 1)
      if (
        scoreUnits[bitrate]! >= 0 &&
        uploadKbps[bitrate]! >= 0 &&
        (earned === null || earned[bitrate - first] === 1)
      )
        accepted.push(bitrate)
      else scoreUnits[bitrate] = -1
    return { scoreUnits, uploadKbps, diskMegabytes, below, accepted }
  }

  /** What an encode uses; null where somebody does not accept it. */
  of({ serves, shape, device, bitrate }: Encode): EncodeUse | null {
    const row = this.rowFor(serves, shape)
    const place = row?.places.find((each) => each.device === device)
    return row && place ? this.useAt(row, place, bitrate) : null
  }

  /** What an encode of a row uses at one of its places; null where somebody does not accept the bitrate. */
  useAt(
    row: ShapeRow,
    { device, load }: ShapeRow['places'][number],
    bitrate: number,
  ): EncodeUse | null {
    const { table } = row
    const scoreUnits = table ? table.scoreUnits[bitrate]! : unitsAt(row, bitrate)
    if (scoreUnits < 0) return null
    const { isProcessor } = this.problem.devices[device]!
    const bitrateKbps = this.problem.bitratesKbps[bitrate]!
    const uploadKbps = table ? table.uploadKbps[bitrate]! : uploadAt(row, bitrate)
    return {
      scoreUnits,
      below: table ? table.below[bitrate]! : this.belowAt(row, bitrate),
      uploadKbps,
      diskMegabytes: table ? table.diskMegabytes[bitrate]! : diskAt(row, bitrate),
      changedCells: this.changedCells(row, device, bitrate),
      processorLoad: isProcessor ? load : 0,
      otherLoad: isProcessor ? 0 : load,
      encodes: 1,
      unrounded500: Number(bitrateKbps % 500 !== 0),
      unrounded250: Number(bitrateKbps % 250 !== 0),
      unrounded100: Number(bitrateKbps % 100 !== 0),
      kbps: uploadKbps + row.recordings * bitrateKbps,
    }
  }

  /** The place of a bitrate; -1 where it is none. */
  placeOf(kbps: number): number {
    return this.places.get(kbps) ?? -1
  }

  /** The bitrates that the last plan gave those served. */
  lastBitrates(serves: Encode['serves']): readonly number[] {
    const known = this.servedFor(serves)
    known.lastBitrates ??= serves.flatMap(({ demand }) => {
      const last = this.preferences.last[demand]
      return last ? [this.placeOf(last.videoBitrateKbps)] : []
    })
    return known.lastBitrates
  }

  /** The places of round bitrates beside one: of each step the next below, above, and the second below. */
  roundBeside(bitrate: number): readonly number[] {
    const known = this.round.get(bitrate)
    if (known) return known
    const kbps = this.problem.bitratesKbps[bitrate] ?? 0
    const places = roundStepsKbps.flatMap((step) => [
      this.placeOf(Math.floor(kbps / step) * step),
      this.placeOf(Math.ceil(kbps / step) * step),
      this.placeOf((Math.floor(kbps / step) - 1) * step),
    ])
    this.round.set(bitrate, places)
    return places
  }

  /** How many cells of those served the last plan set otherwise. */
  changedCells(row: ShapeRow, device: number, bitrate: number): number {
    if (!this.isAnyPlanned) return 0
    const kbps = this.problem.bitratesKbps[bitrate]
    let changed = this.changedBesideBitrate(row, device)
    for (const { demand } of row.serves) {
      const last = this.preferences.last[demand]
      if (last && last.videoBitrateKbps !== kbps) changed += 1
    }
    return changed
  }

  /** The same, whatever the bitrate is. */
  changedBesideBitrate({ serves, shape }: ShapeRow, device: number): number {
    if (!this.isAnyPlanned) return 0
    const { width, height, framesPerSecond, codec, effort } = this.problem.shapes[shape]!
    let changed = 0
    for (const { demand, relay } of serves) {
      const last = this.preferences.last[demand]
      if (!last) continue
      changed +=
        Number(last.width !== width || last.height !== height) +
        Number(last.framesPerSecond !== framesPerSecond) +
        Number(last.codec !== codec) +
        Number(last.effort !== effort) +
        Number(last.device !== device) +
        Number(last.relay !== relay)
    }
    return changed
  }
}

const keyOf = (serves: Encode['serves']): string =>
  serves.map(({ demand, relay }) => `${demand}:${relay ?? ''}`).join()

/** The encodes of a solution. */
export function encodesOfSolution({ bitratesKbps }: Problem, solution: Solution): Encode[] {
  return solution.encodes.map(({ shape, device, bitrateKbps }, index) => ({
    serves: solution.assignments.flatMap(({ demand, encode, relay }) =>
      encode === index ? [{ demand, relay }] : [],
    ),
    shape,
    device,
    bitrate: bitratesKbps.indexOf(bitrateKbps),
  }))
}

/** Encodes as a solution; whom none of them serves is left out. */
export function solutionOfEncodes(uses: EncodeUses, encodes: readonly Encode[]): Solution {
  const { problem } = uses
  const total = encodes.reduce((sum, encode) => plus(sum, uses.of(encode)!), noUse)
  const assignments = problem.demands.map((_, demand) => {
    const encode = encodes.findIndex(({ serves }) => serves.some((each) => each.demand === demand))
    const relay = encodes[encode]?.serves.find((each) => each.demand === demand)?.relay ?? null
    return { demand, encode: encode < 0 ? null : encode, relay }
  })
  const leftOut = new Map(
    problem.demands.flatMap(({ owner, priority, count }, demand) =>
      assignments[demand]!.encode === null ? [[owner, priority * count] as const] : [],
    ),
  )
  return {
    assignments,
    encodes: encodes.map(({ serves, shape, device, bitrate }) => ({
      shape,
      device,
      load: uses.placesFor(serves, shape).find((each) => each.device === device)!.load,
      bitrateKbps: problem.bitratesKbps[bitrate]!,
    })),
    worth: {
      leftOutWeight: [...leftOut.values()].reduce((sum, priority) => sum + priority, 0),
      belowFloor: total.below,
      scoreUnits: total.scoreUnits,
      encodes: total.encodes,
      kbps: total.kbps,
    },
    uploadKbps: total.uploadKbps,
    diskMegabytes: total.diskMegabytes,
  }
}
