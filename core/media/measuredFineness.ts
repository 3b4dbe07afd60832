import type { MeasuredPoint, OwnPicture, Size } from '../show'
import { scoreFromSsim } from './measuredScore'
import { monotoneCurve } from './monotoneCurve'
import { codecEfficiency, effortEfficiency, type PictureClass } from './pictureScoreTables'
import { cleanBitrateOf, quantisationTerm, sizeTerm } from './pictureTerms'

type Shape = Size & { framesPerSecond: number }

/** kb/s that a clean picture needs at the effort with which the points were made. */
const neededKbps = (shape: Shape, values: PictureClass, effort: OwnPicture['effort']): number =>
  cleanBitrateOf(values, shape) / (codecEfficiency.h264 * effortEfficiency.h264[effort])

/** ln(bitrate ÷ what a clean picture of a point's shape needs). */
export const logShareOf = (
  point: MeasuredPoint,
  values: PictureClass,
  effort: OwnPicture['effort'],
): number => Math.log(point.videoBitrateKbps / neededKbps(point, values, effort))

/** What a size makes of the picture beside the clip's own, 0 to 1. */
const besideClip = ({ width, height }: Size, clip: Size, values: PictureClass): number =>
  sizeTerm(values, (width * height) / (clip.width * clip.height))

/**
 * What the bits make of a measured picture: its score over what its size makes of it beside the clip's.
 * Above 1 where the size costs less than the class says.
 */
export const finenessMeasured = (point: MeasuredPoint, clip: Size, values: PictureClass): number =>
  scoreFromSsim(point.ssim) / 100 / besideClip(point, clip, values)

/** What the model alone says that the bits make of a point. */
export const finenessModelled = (
  point: MeasuredPoint,
  values: PictureClass,
  effort: OwnPicture['effort'],
): number =>
  quantisationTerm(
    values,
    Math.exp(logShareOf(point, values, effort) / values.quantisationExponent),
  )

/** The points of one size and frame rate. */
interface MeasuredShape {
  /** Where its points lie: ln(bitrate ÷ what a clean picture needs). */
  from: number
  to: number
  curve: (logShare: number) => number
  logPixels: number
  /** What its size makes of it beside the clip's. */
  sizeTerm: number
  framesPerSecond: number
}

function measuredShapes(
  { points, clip, effort }: Pick<OwnPicture, 'points' | 'clip' | 'effort'>,
  classValues: PictureClass,
): MeasuredShape[] {
  const byShape = new Map<string, MeasuredPoint[]>()
  for (const point of points) {
    const key = `${point.width}×${point.height} ${point.framesPerSecond}`
    byShape.set(key, [...(byShape.get(key) ?? []), point])
  }
  return [...byShape.values()].map((own) => {
    const [first] = own as [MeasuredPoint]
    const placed = own
      .map((point) => ({
        place: logShareOf(point, classValues, effort),
        value: finenessMeasured(point, clip, classValues),
      }))
      .sort((a, b) => a.place - b.place || b.value - a.value)
      // Of encodes that took the same bits the best counts.
      .filter(({ place }, index, all) => index === 0 || place > (all[index - 1]?.place ?? 0) + 1e-9)
    // More bits are never worse; where they were measured to be, that is noise.
    let most = 0
    const values = placed.map(({ value }) => (most = Math.max(most, value)))
    const places = placed.map(({ place }) => place)
    return {
      logPixels: Math.log(first.width * first.height),
      sizeTerm: besideClip(first, clip, classValues),
      framesPerSecond: first.framesPerSecond,
      from: places[0] as number,
      to: places.at(-1) as number,
      curve: monotoneCurve({ places, values }),
    }
  })
}

/**
 * The quantisation term of a picture of one's own, read from its points: a curve that never falls over the
 * logarithm of the bitrate between them, beyond them along the model's form; scores straight over the logarithm of the
 * pixels between sizes that were measured, at the nearest frame rate that was, and beyond them by what
 * the model makes of the size.
 */
export function measuredFineness(
  picture: Pick<OwnPicture, 'points' | 'clip' | 'effort'>,
  values: PictureClass,
): { at: (shape: Shape) => (logShare: number) => number; saturatesAt: number } {
  const shapes = measuredShapes(picture, values)
  const saturatesAt = Math.max(0, ...shapes.map(({ to }) => to))
  const modelled = (logShare: number): number =>
    quantisationTerm(values, Math.exp(logShare / values.quantisationExponent))
  const alongShape = (shape: MeasuredShape, logShare: number): number => {
    const within = Math.min(shape.to, Math.max(shape.from, logShare))
    const inside = shape.curve(within)
    return within === logShare ? inside : (inside * modelled(logShare)) / modelled(within)
  }
  const rates = [...new Set(shapes.map(({ framesPerSecond }) => framesPerSecond))]
  const at = ({ width, height, framesPerSecond }: Shape): ((logShare: number) => number) => {
    const away = (rate: number): number => Math.abs(Math.log(rate / framesPerSecond))
    const rate = rates.reduce((best, each) => (away(each) < away(best) ? each : best))
    const sizes = shapes
      .filter((shape) => shape.framesPerSecond === rate)
      .sort((a, b) => a.logPixels - b.logPixels)
    const logPixels = Math.log(width * height)
    const above = sizes.findIndex((size) => size.logPixels >= logPixels)
    const upper = sizes[above] ?? (sizes.at(-1) as MeasuredShape)
    const lower = sizes[above - 1]
    if (!lower || above < 0) return (logShare) => alongShape(upper, logShare)
    const share = (logPixels - lower.logPixels) / (upper.logPixels - lower.logPixels)
    const own = besideClip({ width, height }, picture.clip, values)
    return (logShare) =>
      (alongShape(lower, logShare) * lower.sizeTerm * (1 - share) +
        alongShape(upper, logShare) * upper.sizeTerm * share) /
      own
  }
  return { at, saturatesAt }
}
