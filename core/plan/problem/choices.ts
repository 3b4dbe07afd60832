import {
  finenessOver,
  highestBitrateKbps,
  type JudgedOn,
  saturatingBitrateKbps,
  type ScoredPicture,
  shapeTerm,
} from '../../media'
import { type SentRendition, tcpCeilingKbps, wireRateKbps } from '../../network'
import type { Destination, Rendition, Rules } from '../../show'
import { type Choice, scoreUnitsPerPoint, type Shape } from './problem'

/** What the bits make of a shape. */
interface ShapeBits {
  /** The term of the score that they decide, at each bitrate. */
  fineness: Float64Array
  /** The place of the bitrate from which on more no longer helps. */
  enough: number
}

/** By the place of the shape and the frames of look-ahead. */
export type BitsTables = (shape: number, lookAheadFrames: number) => ShapeBits

/** What the bits make of each shape and look-ahead over all bitrates; computed once for all demands. */
export function bitsTables(
  shapes: readonly Shape[],
  picture: ScoredPicture,
  bitratesKbps: readonly number[],
): BitsTables {
  const byLookAhead = new Map<number, ShapeBits[]>()
  const finenessOf = finenessOver(bitratesKbps, picture)
  return (index, lookAheadFrames) => {
    const tables = byLookAhead.get(lookAheadFrames) ?? []
    byLookAhead.set(lookAheadFrames, tables)
    const known = tables[index]
    if (known) return known
    const { width, height, framesPerSecond, codec, effort, efficiency } = shapes[index] as Shape
    const encoder = { lookAheadFrames }
    const rendition = { width, height, framesPerSecond, codec, effort, efficiency, encoder }
    return (tables[index] = {
      fineness: finenessOf(rendition),
      enough: firstAtLeast(bitratesKbps, saturatingBitrateKbps(rendition, picture)),
    })
  }
}

/** What a shape is worth to all who are judged alike. */
interface ShapeWorth {
  /** Score units at each bitrate of a destination that matters by 1. */
  units: Int32Array
  /** The place of the bitrate from which on more no longer helps. */
  enough: number
}

type Judged = Pick<Wanted, 'lookAheadFrames' | 'shapeTerm' | 'steps'>

/** By how it is judged, and the place of the shape. */
export type WorthTables = (judged: Judged) => (shape: number) => ShapeWorth

/** What shapes are worth over all bitrates; computed once for all demands that are judged alike. */
export function worthTables(
  shapes: readonly Shape[],
  picture: ScoredPicture,
  bitratesKbps: readonly number[],
): WorthTables {
  const bits = bitsTables(shapes, picture, bitratesKbps)
  const known = new Map<string, ShapeWorth[]>()
  return ({ lookAheadFrames, shapeTerm, steps }) => {
    const key = `${lookAheadFrames} ${shapeTerm} ${steps}`
    const tables = known.get(key) ?? []
    known.set(key, tables)
    return (index) => {
      const kept = tables[index]
      if (kept) return kept
      const { fineness, enough } = bits(index, lookAheadFrames)
      return (tables[index] = { units: scoreUnitsOf(fineness, 100 * shapeTerm, steps), enough })
    }
  }
}

/** Scores as whole units, which a plan adds up. */
function scoreUnitsOf(fineness: Float64Array, factor: number, steps: number): Int32Array {
  const units = new Int32Array(fineness.length)
  let last = -1
  for (let at = 0; at < units.length; at += 1) {
    const own = fineness[at]!
    // Where more bits no longer help it is the same again and again.
    units[at] =
      own === last ? units[at - 1]! : Math.round((factor * own * scoreUnitsPerPoint) / steps)
    last = own
  }
  return units
}

type Sender = Pick<Destination, 'protocol' | 'path' | 'backupAddress'>

/**
 * What a send at each bitrate takes, in whole kb/s, both ingests together; -1 from where its path no
 * longer carries it. Sends that take the same get the same table.
 */
export function wireTables(
  bitratesKbps: readonly number[],
): (sender: Sender, rendition: Rendition) => Int32Array {
  const known = new Map<string, Int32Array>()
  const oneIngest = ({ protocol, path }: Sender, rendition: Rendition): Int32Array => {
    const { framesPerSecond, bFrames, audioCodec, audioBitrateKbps, audioSampleRateHz } = rendition
    // What of the path it hangs on: over SRT its loss, over RTMP the chunks.
    const ofPath = protocol === 'srt' ? path.lossPercent : path.rtmpChunkBytes
    const key = `${protocol} ${ofPath} ${framesPerSecond} ${bFrames} ${audioCodec} ${audioBitrateKbps} ${audioSampleRateHz}`
    const table = known.get(key)
    if (table) return table
    const sent: SentRendition = {
      framesPerSecond,
      videoBitrateKbps: 0,
      bFrames,
      audioCodec,
      audioBitrateKbps,
      audioSampleRateHz,
    }
    const made = new Int32Array(bitratesKbps.length)
    for (let index = 0; index < made.length; index += 1) {
      sent.videoBitrateKbps = bitratesKbps[index]!
      made[index] = Math.ceil(wireRateKbps(sent, protocol, path))
    }
    known.set(key, made)
    return made
  }
  return (sender, rendition) => {
    const { protocol, path, backupAddress } = sender
    const table = oneIngest(sender, rendition)
    const { roundTripMilliseconds, lossPercent } = path
    const overTcp = protocol === 'rtmp' || protocol === 'rtmps'
    const ceilingKbps =
      overTcp && roundTripMilliseconds !== null && lossPercent !== null
        ? tcpCeilingKbps(roundTripMilliseconds, lossPercent)
        : Infinity
    const times = backupAddress === null ? 1 : 2
    if (times === 1 && ceilingKbps === Infinity) return table
    return table.map((wireKbps) => (wireKbps > ceilingKbps ? -1 : wireKbps * times))
  }
}

/** Bitrates as places in the list of a problem: from `first` up to, but without, `end`. */
export interface BitrateRange {
  first: number
  end: number
}

/** The place of the first value that is no less; the list ascends. */
export function firstAtLeast(values: ArrayLike<number>, least: number): number {
  let low = 0
  let high = values.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (values[middle]! < least) low = middle + 1
    else high = middle
  }
  return low
}

/** The bitrates that rules and levels accept for a size, frame rate and codec; null where there are none. */
export function acceptedRange(
  rules: Pick<Rules, 'leastVideoBitrateKbps' | 'mostVideoBitrateKbps' | 'highestLevel'>,
  picture: Omit<Shape, 'effort' | 'canvas'>,
  bitratesKbps: readonly number[],
): BitrateRange | null {
  const ofLevel = highestBitrateKbps(picture, rules.highestLevel[picture.codec])
  if (ofLevel === null) return null
  const maxKbps = Math.min(rules.mostVideoBitrateKbps, ofLevel)
  const first = firstAtLeast(bitratesKbps, rules.leastVideoBitrateKbps ?? 0)
  const end = firstAtLeast(bitratesKbps, Math.floor(maxKbps) + 1)
  return first < end ? { first, end } : null
}

interface Wanted {
  /** What size and frame rate make of the picture; see `meanShapeTerm`. */
  shapeTerm: number
  lookAheadFrames: number
  priority: number
  /** Among how many steps of a ladder the score is shared. */
  steps: number
}

/** Mean over what it is judged on of what size and frame rate make of the picture, 0 to 1. */
export const meanShapeTerm = (
  shape: Pick<Shape, 'width' | 'height' | 'framesPerSecond'>,
  picture: ScoredPicture,
  screens: readonly JudgedOn[],
): number => shapeTerm(shape, picture, screens)

/** Score units by priority at the bitrates from `first` up to `end`; -1 where one is not offered. */
function weighed(
  units: Int32Array,
  isOffered: Uint8Array,
  { first, end, priority }: BitrateRange & { priority: number },
): Int32Array {
  const own = new Int32Array(end - first)
  for (let at = first; at < end; at += 1)
    own[at - first] = isOffered[at] === 0 ? -1 : units[at]! * priority
  return own
}

export interface ChoiceTables {
  /** Whether a bitrate is one that the demand may have. */
  isOffered: Uint8Array
  /** Bitrates up to here are listed in any case, since others may have nothing lower. */
  listedTo: number
  /** Of the shapes by their places, as the demand is judged. */
  worthOf: ReturnType<WorthTables>
  /** Of a recording, which is not sent, all zero. */
  wireKbps: Int32Array
  /** null for a send. */
  diskMegabytes: Int32Array | null
  /** Whether a relay may feed it, so that what its own path does not carry may still reach it. */
  mayBeFed: boolean
}

/**
 * What a demand gets out of a shape, from its lowest accepted bitrate up to where more no longer
 * helps; null where it gets nothing.
 */
export function choiceOf(
  index: number,
  { first, end }: BitrateRange,
  { priority }: Pick<Wanted, 'priority'>,
  tables: ChoiceTables,
): Choice | null {
  const { isOffered, listedTo, worthOf, wireKbps, diskMegabytes } = tables
  let to = end
  // The higher the bitrate the more is sent, so that what the path does not carry is at the end.
  while (!tables.mayBeFed && to > first && wireKbps[to - 1]! < 0) to -= 1
  if (to === first) return null
  const { units, enough: saturated } = worthOf(index)
  let enough = saturated
  while (enough < to && (enough < first || isOffered[enough] === 0)) enough += 1
  to = Math.min(to, Math.max(enough + 1, listedTo))
  const scores = weighed(units, isOffered, { first, end: to, priority })
  return { shape: index, first, scores, earned: null, wireKbps, diskMegabytes }
}
