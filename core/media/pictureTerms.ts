import type { Size } from '../show'
import {
  type PictureClass,
  qualityExponents,
  referenceFramesPerSecond,
  referencePixels,
} from './pictureScoreTables'

/** Inverted exponential: 0 at x = 0, 1 at x = 1, the steeper the larger `steepness`. */
export function invertedExponential(steepness: number, x: number): number {
  return (1 - Math.exp(-steepness * x)) / (1 - Math.exp(-steepness))
}

/** What the bits make of the picture, 0 to 1, when it can be quantised this finely (1 = as finely as helps). */
export const quantisationTerm = (
  { quantisationSteepness }: PictureClass,
  fineness: number,
): number => invertedExponential(quantisationSteepness, Math.min(1, fineness))

/** The same for many at once, as exactly: for each of `values` times `scale`. */
export function quantisationTerms(
  { quantisationSteepness }: PictureClass,
  values: Float64Array,
  scale: number,
): Float64Array {
  const whole = 1 - Math.exp(-quantisationSteepness)
  const terms = new Float64Array(values.length)
  for (let index = 0; index < values.length; index += 1) {
    const fineness = (values[index] as number) * scale
    terms[index] = fineness >= 1 ? 1 : (1 - Math.exp(-quantisationSteepness * fineness)) / whole
  }
  return terms
}

/** What the size makes of the picture, 0 to 1, by its share of the pixels that are seen. */
export const sizeTerm = (
  { pixelsSteepness }: PictureClass,
  shareOfPixels: number,
  steepnessFactor = 1,
): number =>
  invertedExponential(
    pixelsSteepness * steepnessFactor,
    Math.min(1, shareOfPixels) ** qualityExponents.pixels,
  )

/** kb/s that a clean H.264 picture of this size and frame rate needs (Ma, Xu, Wang 2012). */
export const cleanBitrateOf = (
  values: PictureClass,
  { width, height, framesPerSecond }: Size & { framesPerSecond: number },
): number =>
  values.cleanBitrateKbps *
  (framesPerSecond / referenceFramesPerSecond) ** values.frameRateExponent *
  ((width * height) / referencePixels) ** values.pixelsExponent
