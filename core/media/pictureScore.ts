import type { PictureKind, Rendition, ViewerScreen } from '../show'
import {
  codecEfficiency,
  effortEfficiency,
  pictureClasses,
  qualityExponents,
  referenceFramesPerSecond,
  referencePixels,
  type ScoreWord,
  scoreWords,
  viewerScreenSizes,
} from './pictureScoreTables'

export type ScoredRendition = Pick<
  Rendition,
  'width' | 'height' | 'framesPerSecond' | 'codec' | 'effort' | 'videoBitrateKbps'
>

/** Inverted exponential: 0 at x = 0, 1 at x = 1, the steeper the larger `steepness`. */
function invertedExponential(steepness: number, x: number): number {
  return (1 - Math.exp(-steepness * x)) / (1 - Math.exp(-steepness))
}

/** Pixels of a canvas of this shape that fit on the viewer's screen; a phone is turned to suit. */
export function viewedPixels(
  shape: { width: number; height: number },
  screen: ViewerScreen,
): number {
  const { width, height, canTurn } = viewerScreenSizes[screen]
  const fitted = (screenWidth: number, screenHeight: number): number => {
    const scale = Math.min(screenWidth / shape.width, screenHeight / shape.height)
    return shape.width * scale * (shape.height * scale)
  }
  return canTurn ? Math.max(fitted(width, height), fitted(height, width)) : fitted(width, height)
}

/** kb/s that a clean H.264 picture of this size (pixels) and frame rate needs (Ma, Xu, Wang 2012). */
export function cleanBitrateKbps(
  kind: PictureKind,
  rendition: Pick<ScoredRendition, 'width' | 'height' | 'framesPerSecond'>,
): number {
  const values = pictureClasses[kind]
  const pixels = rendition.width * rendition.height
  return (
    values.cleanBitrateKbps *
    (rendition.framesPerSecond / referenceFramesPerSecond) ** values.frameRateExponent *
    (pixels / referencePixels) ** values.pixelsExponent
  )
}

/**
 * The picture score, 0 to 100, of a rendition as seen on one kind of screen.
 * Product of quantisation, size and frame rate terms (Ou, Xue, Wang 2014, "Q-STAR"); the values are
 * in `pictureScoreTables.ts`.
 */
export function pictureScore(
  rendition: ScoredRendition,
  kind: PictureKind,
  screen: ViewerScreen,
): number {
  const values = pictureClasses[kind]
  const efficiency = codecEfficiency[rendition.codec] * effortEfficiency[rendition.effort]
  const fineness = Math.min(
    1,
    ((rendition.videoBitrateKbps * efficiency) / cleanBitrateKbps(kind, rendition)) **
      (1 / values.quantisationExponent),
  )
  const shareOfPixels = Math.min(
    1,
    (rendition.width * rendition.height) / viewedPixels(rendition, screen),
  )
  const shareOfFrames = Math.min(1, rendition.framesPerSecond / referenceFramesPerSecond)
  const pixelsSteepness = values.pixelsSteepness * viewerScreenSizes[screen].pixelsSteepnessFactor
  return (
    100 *
    invertedExponential(values.quantisationSteepness, fineness) *
    invertedExponential(pixelsSteepness, shareOfPixels ** qualityExponents.pixels) *
    invertedExponential(values.frameRateSteepness, shareOfFrames ** qualityExponents.frameRate)
  )
}

/** The word for a score from 0 to 100. The score is rounded first, as it is shown. */
export function scoreWord(score: number): ScoreWord {
  const shown = Math.round(score)
  return scoreWords.find(({ from }) => shown >= from)?.word ?? 'broken'
}
