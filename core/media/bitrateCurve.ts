import type { PictureKind, Rendition, Size } from '../show'
import { type JudgedOn, pictureScore } from './pictureScore'

export interface CurveVariant extends Size {
  framesPerSecond: Rendition['framesPerSecond']
}

export interface ScoreCurve {
  variant: CurveVariant
  points: { videoBitrateKbps: number; score: number }[]
}

/** Bitrates (kb/s) spaced evenly on a logarithmic scale, both ends included. */
export function logarithmicBitrates(fromKbps: number, toKbps: number, count: number): number[] {
  const ratio = toKbps / fromKbps
  return Array.from({ length: count }, (_, index) => fromKbps * ratio ** (index / (count - 1)))
}

/** What the bits buy: the picture score over bitrate for each size and frame rate, all else as in `rendition`. */
export function scoreCurves(
  rendition: Rendition,
  variants: readonly CurveVariant[],
  kind: PictureKind,
  screen: JudgedOn,
  bitratesKbps: readonly number[],
): ScoreCurve[] {
  return variants.map((variant) => ({
    variant,
    points: bitratesKbps.map((videoBitrateKbps) => ({
      videoBitrateKbps,
      score: pictureScore({ ...rendition, ...variant, videoBitrateKbps }, kind, screen),
    })),
  }))
}

/**
 * The bitrate (kb/s) above which the larger variant scores better than the smaller one, found by
 * halving between the two ends; null where one of them is better all the way.
 */
export function crossingKbps(
  rendition: Rendition,
  smaller: CurveVariant,
  larger: CurveVariant,
  kind: PictureKind,
  screen: JudgedOn,
  range: { fromKbps: number; toKbps: number },
): number | null {
  const lead = (videoBitrateKbps: number): number =>
    pictureScore({ ...rendition, ...larger, videoBitrateKbps }, kind, screen) -
    pictureScore({ ...rendition, ...smaller, videoBitrateKbps }, kind, screen)
  let below = range.fromKbps
  let above = range.toKbps
  if (lead(below) >= 0 || lead(above) <= 0) return null
  while (above - below > 1) {
    const middle = (below + above) / 2
    if (lead(middle) > 0) above = middle
    else below = middle
  }
  return Math.round(above)
}
