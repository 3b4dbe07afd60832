import type { Rendition, Size } from '../show'
import { efficiencyOf, pictureIn, type ScoredPicture } from './efficiency'
import { type Judged, pictureScore } from './pictureScore'

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
  picture: ScoredPicture,
  screen: Judged,
  bitratesKbps: readonly number[],
): ScoreCurve[] {
  return variants.map((variant) => ({
    variant,
    points: bitratesKbps.map((videoBitrateKbps) => ({
      videoBitrateKbps,
      score: pictureScore({ ...rendition, ...variant, videoBitrateKbps }, picture, screen),
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
  picture: ScoredPicture,
  screen: Judged,
  range: { fromKbps: number; toKbps: number },
): number | null {
  const lead = (videoBitrateKbps: number): number =>
    pictureScore({ ...rendition, ...larger, videoBitrateKbps }, picture, screen) -
    pictureScore({ ...rendition, ...smaller, videoBitrateKbps }, picture, screen)
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

/** Where a larger size begins to look better than the next smaller one. */
export interface Crossing {
  smaller: CurveVariant
  larger: CurveVariant
  videoBitrateKbps: number
  score: number
}

/** The crossings of each variant with the next smaller one, the variants given from large to small. */
export function crossingsOf(
  rendition: Rendition,
  variants: readonly CurveVariant[],
  picture: ScoredPicture,
  screen: Judged,
  range: { fromKbps: number; toKbps: number },
): Crossing[] {
  return variants.slice(1).flatMap((smaller, index) => {
    const larger = variants[index] as CurveVariant
    const videoBitrateKbps = crossingKbps(rendition, smaller, larger, picture, screen, range)
    if (videoBitrateKbps === null) return []
    const met = { ...rendition, ...larger, videoBitrateKbps }
    return [{ smaller, larger, videoBitrateKbps, score: pictureScore(met, picture, screen) }]
  })
}

/**
 * Where encodes of one's own picture lie on the curve of a variant: those of its size and frame rate, at
 * the bitrate at which the rendition's codec and effort would be as good. None for a kind of picture.
 */
export function measuredOnCurve(
  rendition: Rendition,
  variant: CurveVariant,
  picture: ScoredPicture,
  screen: Judged,
): ScoreCurve['points'] {
  const own = pictureIn(picture)
  if (typeof own === 'string') return []
  const made = efficiencyOf({ codec: 'h264', effort: own.effort }, own)
  const asGood = made / efficiencyOf({ ...rendition, ...variant }, picture)
  return own.points
    .filter(
      (point) =>
        point.width * point.height === variant.width * variant.height &&
        point.framesPerSecond === variant.framesPerSecond,
    )
    .map((point) => {
      const videoBitrateKbps = point.videoBitrateKbps * asGood
      return {
        videoBitrateKbps,
        score: pictureScore({ ...rendition, ...variant, videoBitrateKbps }, picture, screen),
      }
    })
}
