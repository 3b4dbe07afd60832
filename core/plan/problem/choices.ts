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

/** By the place of the shape and the frames of look-ahead. */
export type FinenessTables = (shape: number, lookAheadFrames: number) => Float64Array

/**
 * The terms of the score that the bits decide, for each shape and look-ahead over all bitrates; computed
 * once for all demands.
 */
export function finenessTables(
  shapes: readonly Shape[],
  picture: ScoredPicture,
  bitratesKbps: readonly number[],
): FinenessTables {
  const byLookAhead = new Map<number, Float64Array[]>()
  const over = finenessOver(bitratesKbps, picture)
  return (index, lookAheadFrames) => {
    const tables = byLookAhead.get(lookAheadFrames) ?? []
    byLookAhead.set(lookAheadFrames, tables)
    return (tables[index] ??= over({ ...(shapes[index] as Shape), encoder: { lookAheadFrames } }))
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

/** By the place of the shape, and how it is judged. */
export type WorthTables = (shape: number, judged: Judged) => ShapeWorth

/** What shapes are worth over all bitrates; computed once for all demands that are judged alike. */
export function worthTables(
  shapes: readonly Shape[],
  picture: ScoredPicture,
  bitratesKbps: readonly number[],
): WorthTables {
  const fineness = finenessTables(shapes, picture, bitratesKbps)
  const known = new Map<string, ShapeWorth>()
  return (index, { lookAheadFrames, shapeTerm, steps }) => {
    const key = `${index} ${lookAheadFrames} ${shapeTerm} ${steps}`
    const kept = known.get(key)
    if (kept) return kept
    const rendition = { ...(shapes[index] as Shape), encoder: { lookAheadFrames } }
    const worth = {
      units: scoreUnitsOf(fineness(index, lookAheadFrames), 100 * shapeTerm, steps),
      enough: firstAtLeast(bitratesKbps, saturatingBitrateKbps(rendition, picture)),
    }
    known.set(key, worth)
    return worth
  }
}

/** Scores as whole units, which a plan adds up. */
function scoreUnitsOf(fineness: Float64Array, factor: number, steps: number): Int32Array {
  const units = new Int32Array(fineness.length)
  for (let at = 0; at < units.length; at += 1)
    units[at] = Math.round((factor * fineness[at]! * scoreUnitsPerPoint) / steps)
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
): number =>
  screens.reduce((sum, screen) => sum + shapeTerm(shape, picture, screen), 0) / screens.length

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
  worths: WorthTables
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
  wanted: Wanted,
  tables: ChoiceTables,
): Choice | null {
  const { isOffered, listedTo, worths, wireKbps, diskMegabytes } = tables
  let to = end
  // The higher the bitrate the more is sent, so that what the path does not carry is at the end.
  while (!tables.mayBeFed && to > first && wireKbps[to - 1]! < 0) to -= 1
  if (to === first) return null
  const { units, enough: saturated } = worths(index, wanted)
  let enough = saturated
  while (enough < to && (enough < first || isOffered[enough] === 0)) enough += 1
  to = Math.min(to, Math.max(enough + 1, listedTo))
  const scores = weighed(units, isOffered, { first, end: to, priority: wanted.priority })
  return { shape: index, first, scores, earned: null, wireKbps, diskMegabytes }
}
