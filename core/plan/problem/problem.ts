import type { CanvasName, Codec, Effort, Rendition } from '../../show'

/** Scores are kept as whole hundredths of a point, so that sums and comparisons are exact. */
export const scoreUnitsPerPoint = 100

/** All of an encode but its bitrate and its device. */
export interface Shape {
  canvas: CanvasName
  width: number
  height: number
  framesPerSecond: Rendition['framesPerSecond']
  codec: Codec
  effort: Effort
  /** What those that make it get out of a bit, where that was measured: what makes it otherwise makes another shape. */
  efficiency?: number
}

/** A device that can make a shape, and the share of the device that it takes, 1 = all of it. */
export interface Place {
  device: number
  load: number
}

/**
 * What one demand gets out of one shape. What it takes is listed over all bitrates of the problem, so
 * that choices of one frame rate have the same lists; what is worth having begins at `first`.
 */
export interface Choice {
  shape: number
  first: number
  /**
   * Priority × score in hundredths of a point, shared among the steps of a ladder, from the bitrate
   * `first` on; -1 where a bitrate is not accepted.
   */
  scores: Int32Array
  /**
   * From `first` on: 1 where a larger size or higher frame rate has earned its place, scoring so much
   * more than every smaller one that has; null where there is no smaller one.
   */
  earned: Uint8Array | null
  /** By bitrate: what a direct send takes, in whole kb/s, rounded up; -1 where its path does not carry it; all zero for a recording. */
  wireKbps: Int32Array
  /** By bitrate: what a recording takes of the disk, in whole megabytes, rounded up; null for a send. */
  diskMegabytes: Int32Array | null
}

/** One rendition that is wanted: of a destination, a step of its ladder, or a recording. */
export interface Demand {
  /** Its own among the demands. */
  id: string
  /** Demands of one owner are left out together: the steps of a ladder. */
  owner: string
  /** How many demands that are alike it stands for; what its choices are worth and take is of all of them. */
  count: number
  priority: number
  mustKeep: boolean
  /** What of the picture is not chosen; an encode is shared only where it is the same. */
  picture: string
  /** What of the sound is not chosen, likewise; null for a recording, whose sound is its own. */
  sound: string | null
  /** Below this many score units it counts as below the floor. */
  floorUnits: number
  /** So many score units a larger shape has to be worth above a smaller one to earn its place. */
  marginUnits: number
  choices: readonly Choice[]
  /** The devices it may be encoded on; null for any that can. */
  devices: readonly number[] | null
  /** Whether it may be sent straight to its destination, or kept on the disk. */
  direct: boolean
  /** The relays it may be reached through. */
  relays: readonly number[]
  /** Whether its encode can serve others too; a hand-off's program encodes for itself. */
  shares: boolean
}

/** A service that takes one send and passes it on. */
export interface Relay {
  id: string
  picture: string
  sound: string
  /** How many it feeds at most. */
  mostFed: number
  /** The devices that what it is sent may be encoded on; null for any that can. */
  devices: readonly number[] | null
  /** For each shape that it accepts the bitrates from `first` up to `end`, and by bitrate what a send to it takes. */
  wires: ReadonlyMap<number, { first: number; end: number; wireKbps: Int32Array }>
}

export interface DeviceLimit {
  id: string
  /** Whether it is the processor, which has more to do than encoding. */
  isProcessor: boolean
  /** The share that may be planned, 1 = all of it. */
  maxLoad: number
  /** null where it sets no limit. */
  sessions: number | null
}

/** A fitting problem as plain numbers. */
export interface Problem {
  /** Whole kb/s that all sends together may take. */
  uploadKbps: number
  /** Whole megabytes that all recordings together may take. */
  diskMegabytes: number
  /** Every bitrate that may be chosen, ascending. */
  bitratesKbps: readonly number[]
  shapes: readonly Shape[]
  /** For each shape the devices that can make it. */
  places: readonly (readonly Place[])[]
  devices: readonly DeviceLimit[]
  demands: readonly Demand[]
  relays: readonly Relay[]
}

/** What one demand gets in a plan. */
export interface Assignment {
  demand: number
  /** null where it is left out. */
  encode: number | null
  /** null where it is sent to directly. */
  relay: number | null
}

export interface PlannedEncode {
  shape: number
  device: number
  load: number
  bitrateKbps: number
}

/** The worth of a plan, the weightiest first; all whole numbers. */
export interface Worth {
  /** Σ priority of the destinations and recordings left out. */
  leftOutWeight: number
  belowFloor: number
  /** Σ priority × score, in hundredths of a point. */
  scoreUnits: number
  encodes: number
  /** kb/s on the wire, and of recordings. */
  kbps: number
}

export interface Solution {
  assignments: Assignment[]
  encodes: PlannedEncode[]
  worth: Worth
  uploadKbps: number
  diskMegabytes: number
}

/** What one demand is worth in a solution, in score units; null where it is left out. */
export function unitsOfDemand(
  { demands, bitratesKbps }: Problem,
  { assignments, encodes }: Solution,
  demand: number,
): number | null {
  const { encode } = assignments[demand]!
  if (encode === null) return null
  const { shape, bitrateKbps } = encodes[encode]!
  const { first, scores } = demands[demand]!.choices.find((each) => each.shape === shape)!
  return scores[bitratesKbps.indexOf(bitrateKbps) - first]!
}

/** What comes before the score: what is left out, and then who is below the floor. */
type Shortfall = Pick<Worth, 'leftOutWeight' | 'belowFloor'>

/** Whether one plan falls less short than another, shorter or as short: above, below or 0. */
export const compareShortfalls = (a: Shortfall, b: Shortfall): number =>
  b.leftOutWeight - a.leftOutWeight || b.belowFloor - a.belowFloor

/** Whether one plan is better than, worse than or as good as another: above, below or 0. */
export function compareWorth(a: Worth, b: Worth): number {
  return (
    compareShortfalls(a, b) ||
    a.scoreUnits - b.scoreUnits ||
    b.encodes - a.encodes ||
    b.kbps - a.kbps
  )
}
