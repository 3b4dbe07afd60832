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
  picture: ScoredPicture
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

/** Priority × score as whole units, which a plan adds up, at the bitrates from `first` on; -1 where one is not offered. */
function fillScoreUnits(
  units: Int32Array,
  fineness: Float64Array,
  isOffered: Uint8Array,
  first: number,
  { shapeTerm, priority, steps }: Pick<Wanted, 'shapeTerm' | 'priority' | 'steps'>,
): void {
  const factor = 100 * shapeTerm
  for (let at = 0; at < units.length; at += 1) {
    const score = factor * fineness[first + at]!
    units[at] =
      isOffered[first + at] === 0 ? -1 : Math.round((score * scoreUnitsPerPoint) / steps) * priority
  }
}

export interface ChoiceTables {
  bitratesKbps: readonly number[]
  /** Whether a bitrate is one that the demand may have. */
  isOffered: Uint8Array
  /** Bitrates up to here are listed in any case, since others may have nothing lower. */
  listedTo: number
  fineness: FinenessTables
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
  shape: Shape,
  { first, end }: BitrateRange,
  wanted: Wanted,
  tables: ChoiceTables,
): Choice | null {
  const { bitratesKbps, isOffered, listedTo, fineness, wireKbps, diskMegabytes } = tables
  let to = end
  // The higher the bitrate the more is sent, so that what the path does not carry is at the end.
  while (!tables.mayBeFed && to > first && wireKbps[to - 1]! < 0) to -= 1
  if (to === first) return null
  let enough = firstAtLeast(
    bitratesKbps,
    saturatingBitrateKbps(
      { ...shape, encoder: { lookAheadFrames: wanted.lookAheadFrames } },
      wanted.picture,
    ),
  )
  while (enough < to && (enough < first || isOffered[enough] === 0)) enough += 1
  to = Math.min(to, Math.max(enough + 1, listedTo))
  const scores = new Int32Array(to - first)
  fillScoreUnits(scores, fineness(index, wanted.lookAheadFrames), isOffered, first, wanted)
  return { shape: index, first, scores, earned: null, wireKbps, diskMegabytes }
}
