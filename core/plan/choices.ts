import { finenessOver, lowestLevel, isLevelAbove, saturatingBitrateKbps, shapeTerm } from '../media'
import { tcpCeilingKbps, wireRateKbps } from '../network'
import type { Destination, PictureKind, Rendition, Rules, ViewerScreen } from '../show'
import { type Choice, scoreUnitsPerPoint, type Shape } from './problem'

/** The terms of the score that the bits decide, for each shape over all bitrates; computed once for all demands. */
export function finenessTables(
  shapes: readonly Shape[],
  kind: PictureKind,
  bitratesKbps: readonly number[],
): (shape: number) => Float64Array {
  const tables = new Map<number, Float64Array>()
  const over = finenessOver(bitratesKbps, kind)
  return (index) => {
    const known = tables.get(index)
    if (known) return known
    const table = over(shapes[index] as Shape)
    tables.set(index, table)
    return table
  }
}

/** What a send at each bitrate takes, in whole kb/s, both ingests together; -1 where its path does not carry it. */
export function wireTable(
  destination: Pick<Destination, 'protocol' | 'path' | 'backupAddress'>,
  rendition: Rendition,
  bitratesKbps: readonly number[],
): Int32Array {
  const { roundTripMilliseconds, lossPercent } = destination.path
  const overTcp = destination.protocol === 'rtmp' || destination.protocol === 'rtmps'
  const ceilingKbps =
    overTcp && roundTripMilliseconds !== null && lossPercent !== null
      ? tcpCeilingKbps(roundTripMilliseconds, lossPercent)
      : Infinity
  const times = destination.backupAddress === null ? 1 : 2
  const sent = { ...rendition }
  return Int32Array.from(bitratesKbps, (videoBitrateKbps) => {
    sent.videoBitrateKbps = videoBitrateKbps
    const wireKbps = wireRateKbps(sent, destination.protocol)
    return wireKbps > ceilingKbps ? -1 : Math.ceil(wireKbps) * times
  })
}

/** The first and the last of the bitrates that rules and levels accept for a shape; null where none is. */
export function acceptedRange(
  rules: Pick<Rules, 'leastVideoBitrateKbps' | 'mostVideoBitrateKbps' | 'highestLevel'>,
  shape: Shape,
  bitratesKbps: readonly number[],
): [number, number] | null {
  const cap = rules.highestLevel[shape.codec]
  const isAdmitted = (videoBitrateKbps: number): boolean => {
    const level = lowestLevel({ ...shape, videoBitrateKbps })
    return level !== null && (cap === null || !isLevelAbove(level, cap))
  }
  const least = rules.leastVideoBitrateKbps ?? 0
  const first = bitratesKbps.findIndex((bitrate) => bitrate >= least)
  let last = bitratesKbps.findLastIndex((bitrate) => bitrate <= rules.mostVideoBitrateKbps)
  if (first < 0 || last < first || !isAdmitted(bitratesKbps[first] as number)) return null
  if (!isAdmitted(bitratesKbps[last] as number)) {
    let admitted = first
    while (last - admitted > 1) {
      const middle = (admitted + last) >> 1
      if (isAdmitted(bitratesKbps[middle] as number)) admitted = middle
      else last = middle
    }
    last = admitted
  }
  return [first, last]
}

interface Wanted {
  kind: PictureKind
  viewers: readonly ViewerScreen[]
  priority: number
  /** Among how many steps of a ladder the score is shared. */
  steps: number
}

/** Mean over the viewers' screens of what size and frame rate make of the picture, 0 to 1. */
export const meanShapeTerm = (
  shape: Pick<Shape, 'width' | 'height' | 'framesPerSecond'>,
  kind: PictureKind,
  viewers: readonly ViewerScreen[],
): number =>
  viewers.reduce((sum, screen) => sum + shapeTerm(shape, kind, screen), 0) / viewers.length

/** Priority × score as whole units; what a plan adds up. */
export const scoreUnits = (
  score: number,
  { priority, steps }: Pick<Wanted, 'priority' | 'steps'>,
): number => Math.round((score * scoreUnitsPerPoint) / steps) * priority

/** What a demand gets out of a shape, from its lowest accepted bitrate up to where more no longer helps. */
export function choiceOf(
  index: number,
  shape: Shape,
  [first, last]: readonly [number, number],
  wanted: Wanted,
  tables: {
    bitratesKbps: readonly number[]
    fineness: (shape: number) => Float64Array
    wireKbps: Int32Array | null
    diskMegabytes: Int32Array | null
    isOffered: (bitrateKbps: number) => boolean
  },
): Choice {
  const { bitratesKbps, fineness, wireKbps, diskMegabytes, isOffered } = tables
  const saturatingKbps = saturatingBitrateKbps(shape, wanted.kind)
  const enough = bitratesKbps.findIndex(
    (bitrate, at) => at >= first && bitrate >= saturatingKbps && isOffered(bitrate),
  )
  const to = enough < 0 ? last : Math.min(last, enough)
  const factor = 100 * meanShapeTerm(shape, wanted.kind, wanted.viewers)
  const table = fineness(index)
  const length = to - first + 1
  const scores = new Int32Array(length)
  for (let at = 0; at < length; at += 1) {
    const isTaken =
      isOffered(bitratesKbps[first + at] as number) &&
      (wireKbps === null || (wireKbps[first + at] as number) >= 0)
    scores[at] = isTaken ? scoreUnits(factor * (table[first + at] as number), wanted) : -1
  }
  return {
    shape: index,
    first,
    scores,
    wireKbps: wireKbps ? wireKbps.subarray(first, to + 1) : new Int32Array(length),
    diskMegabytes: diskMegabytes ? diskMegabytes.subarray(first, to + 1) : null,
  }
}
