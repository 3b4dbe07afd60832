import type { Preferences } from '../problem/preferences'
import type { Choice, Problem, Solution } from '../problem/problem'
import { earnedTogether } from '../problem/earning'

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

/** What the members of an encode get and take in one shape, over all bitrates. */
interface ShapeTable {
  /** -1 where the bitrate is not accepted, not carried or not earned. */
  scoreUnits: Int32Array
  uploadKbps: Int32Array
  diskMegabytes: Int32Array
  below: Int32Array
  /** Those with a score, lowest first. */
  accepted: readonly number[]
  recordings: number
}

/** What was looked up of those whom an encode serves together, by shape. */
interface Served {
  shapes: readonly number[] | null
  lastBitrates: readonly number[] | null
  tables: Map<number, ShapeTable | null>
  places: Map<number, Problem['places'][number]>
}

/** Bitrates are round at multiples of these. */
const roundStepsKbps = [500, 250, 100, 50] as const

/** Looks up what encodes use; what was looked up is kept. */
export class EncodeUses {
  private readonly served = new Map<string, Served>()
  /** The same by the list itself, which most changes of an encode leave as it is. */
  private readonly servedByList = new WeakMap<Encode['serves'], Served>()
  private readonly nothing: Int32Array
  private readonly round = new Map<number, readonly number[]>()
  private readonly places: ReadonlyMap<number, number>
  private readonly choices: readonly ReadonlyMap<number, Choice>[]

  constructor(
    readonly problem: Problem,
    private readonly preferences: Preferences,
  ) {
    this.nothing = new Int32Array(problem.bitratesKbps.length)
    this.places = new Map(problem.bitratesKbps.map((kbps, place) => [kbps, place]))
    this.choices = problem.demands.map(
      ({ choices }) => new Map(choices.map((choice) => [choice.shape, choice])),
    )
  }

  private servedFor(serves: Encode['serves']): Served {
    const byList = this.servedByList.get(serves)
    if (byList) return byList
    const key = keyOf(serves)
    const known = this.served.get(key) ?? {
      ...{ shapes: null, lastBitrates: null },
      ...{ tables: new Map(), places: new Map() },
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

  tableFor(serves: Encode['serves'], shape: number): ShapeTable | null {
    const { tables } = this.servedFor(serves)
    const known = tables.get(shape)
    if (known !== undefined) return known
    const table = this.tableOf(serves, shape)
    tables.set(shape, table)
    return table
  }

  private tableOf(serves: Encode['serves'], shape: number): ShapeTable | null {
    const { demands, relays, bitratesKbps, shapes } = this.problem
    const length = bitratesKbps.length
    const choices = serves.map(({ demand }) => this.choices[demand]!.get(shape))
    if (choices.some((choice) => choice === undefined)) return null
    const scoreUnits = new Int32Array(length)
    const uploadKbps = new Int32Array(length)
    const below = new Int32Array(length)
    // Most encodes are not recorded.
    const isRecorded = choices.some((choice) => choice!.diskMegabytes)
    const disk = isRecorded ? new Int32Array(length) : this.nothing
    const accepted: number[] = []
    let recordings = 0
    const isEarned = earnedTogether(shapes, choices as Choice[], this.shapesFor(serves))
    serves.forEach(({ demand, relay }, index) => {
      const { first, scores, wireKbps, diskMegabytes } = choices[index]!
      const { floorUnits, count } = demands[demand]!
      if (diskMegabytes) recordings += count
      const end = first + scores.length
      for (let bitrate = 0; bitrate < length; bitrate += 1) {
        const units = bitrate >= first && bitrate < end ? scores[bitrate - first]! : -1
        const wire = relay === null ? wireKbps[bitrate]! : 0
        if (units < 0 || wire < 0 || scoreUnits[bitrate]! < 0) {
          scoreUnits[bitrate] = -1
          continue
        }
        scoreUnits[bitrate]! += units
        uploadKbps[bitrate]! += wire
        if (diskMegabytes) disk[bitrate]! += diskMegabytes[bitrate]!
        if (units < floorUnits) below[bitrate]! += count
      }
    })
    for (const relay of new Set(serves.flatMap((each) => each.relay ?? []))) {
      const wires = relays[relay]!.wires.get(shape)
      for (let bitrate = 0; bitrate < length; bitrate += 1) {
        const wire = wires?.wireKbps[bitrate] ?? -1
        if (!wires || bitrate < wires.first || bitrate >= wires.end || wire < 0)
          scoreUnits[bitrate] = -1
        else uploadKbps[bitrate]! += wire
      }
    }
    for (let bitrate = 0; bitrate < length; bitrate += 1) {
      if (scoreUnits[bitrate]! < 0) continue
      if (isEarned(bitrate)) accepted.push(bitrate)
      else scoreUnits[bitrate] = -1
    }
    return { scoreUnits, uploadKbps, diskMegabytes: disk, below, accepted, recordings }
  }

  /** What an encode uses; null where somebody does not accept it. */
  of({ serves, shape, device, bitrate }: Encode): EncodeUse | null {
    const table = this.tableFor(serves, shape)
    if (!table || table.scoreUnits[bitrate]! < 0) return null
    const place = this.placesFor(serves, shape).find((each) => each.device === device)
    if (!place) return null
    const { isProcessor } = this.problem.devices[device]!
    const bitrateKbps = this.problem.bitratesKbps[bitrate]!
    const uploadKbps = table.uploadKbps[bitrate]!
    return {
      scoreUnits: table.scoreUnits[bitrate]!,
      below: table.below[bitrate]!,
      uploadKbps,
      diskMegabytes: table.diskMegabytes[bitrate]!,
      changedCells: this.changedCells(serves, shape, device, bitrate),
      processorLoad: isProcessor ? place.load : 0,
      otherLoad: isProcessor ? 0 : place.load,
      encodes: 1,
      unrounded500: Number(bitrateKbps % 500 !== 0),
      unrounded250: Number(bitrateKbps % 250 !== 0),
      unrounded100: Number(bitrateKbps % 100 !== 0),
      kbps: uploadKbps + table.recordings * bitrateKbps,
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
  changedCells(serves: Encode['serves'], shape: number, device: number, bitrate: number): number {
    const { shapes, bitratesKbps } = this.problem
    const { width, height, framesPerSecond, codec, effort } = shapes[shape]!
    let changed = 0
    for (const { demand, relay } of serves) {
      const last = this.preferences.last[demand]
      if (!last) continue
      changed +=
        Number(last.width !== width || last.height !== height) +
        Number(last.framesPerSecond !== framesPerSecond) +
        Number(last.codec !== codec) +
        Number(last.effort !== effort) +
        Number(last.videoBitrateKbps !== bitratesKbps[bitrate]) +
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
