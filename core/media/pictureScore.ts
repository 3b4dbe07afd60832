import type { Rendition, Size, ViewerScreen } from '../show'
import { type Encoding, efficiencyOf, pictureIn, type ScoredPicture } from './efficiency'
import { scoreFromSsim } from './measuredScore'
import { pictureModelOf } from './pictureModel'
import {
  qualityExponents,
  referenceFramesPerSecond,
  type ScoreWord,
  scoreWords,
  viewerScreenSizes,
} from './pictureScoreTables'
import { cleanBitrateOf, invertedExponential, quantisationTerms, sizeTerm } from './pictureTerms'

export type ScoredRendition = Pick<
  Rendition,
  'width' | 'height' | 'framesPerSecond' | 'videoBitrateKbps'
> &
  Encoding

/**
 * What a picture is judged on: a kind of screen, or its own size. The lower steps of a ladder are for
 * viewers whose lines carry no more, whatever they watch on, so that none is worse for being small.
 */
export type JudgedOn = ViewerScreen | 'own size'

/** One kind of screen, or several that count alike. */
export type Judged = JudgedOn | readonly JudgedOn[]

/** What the rendition of a ladder's step is judged on; the main rendition is step 0. */
export const judgedOn = (viewers: readonly ViewerScreen[], step: number): readonly JudgedOn[] =>
  step === 0 ? viewers : ['own size']

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

/** kb/s that a clean H.264 picture of this size and frame rate needs. */
export const cleanBitrateKbps = (
  picture: ScoredPicture,
  rendition: Pick<ScoredRendition, 'width' | 'height' | 'framesPerSecond'>,
): number => cleanBitrateOf(pictureModelOf(pictureIn(picture)).values, rendition)

/**
 * The picture score, 0 to 100, of a rendition as seen on one kind of screen or at its own size; of several
 * kinds the mean, which is the figure that is planned by and shown everywhere.
 * Product of quantisation, size and frame rate terms (Ou, Xue, Wang 2014, "Q-STAR"); the values are
 * in `pictureScoreTables.ts`.
 */
export function pictureScore(
  rendition: ScoredRendition,
  picture: ScoredPicture,
  screen: Judged,
): number {
  return 100 * finenessTerm(rendition, picture) * shapeTerm(rendition, picture, screen)
}

/**
 * The score of a rendition of which only a share of the frames (0 to 1) reached its viewers: those that did
 * look as planned, and what is left of the frame rate makes less of the picture.
 */
export function scoreWithFramesLost(
  rendition: ScoredRendition,
  deliveredShare: number,
  picture: ScoredPicture,
  screen: Judged,
): number {
  const { framesPerSecond } = rendition
  const left = frameRateTerm(framesPerSecond * deliveredShare, picture)
  return (pictureScore(rendition, picture, screen) * left) / frameRateTerm(framesPerSecond, picture)
}

/** What the bits make of the picture, 0 to 1: the quantisation term of the score. */
export function finenessTerm(rendition: ScoredRendition, picture: ScoredPicture): number {
  return finenessOver([rendition.videoBitrateKbps], picture)(rendition)[0] as number
}

/** The quantisation term at each of several bitrates (kb/s), for any number of renditions. */
export function finenessOver(
  bitratesKbps: readonly number[],
  picture: ScoredPicture,
): (rendition: Omit<ScoredRendition, 'videoBitrateKbps'>) => Float64Array {
  const { values, measured } = pictureModelOf(pictureIn(picture))
  const exponent = 1 / values.quantisationExponent
  const powers = new Float64Array(bitratesKbps.length)
  for (const [index, bitrate] of bitratesKbps.entries()) powers[index] = bitrate ** exponent
  return (rendition) => {
    const neededKbps = cleanBitrateKbps(picture, rendition) / efficiencyOf(rendition, picture)
    if (measured) {
      const at = measured(rendition)
      return Float64Array.from(bitratesKbps, (bitrate) => at(Math.log(bitrate / neededKbps)))
    }
    return quantisationTerms(values, powers, neededKbps ** -exponent)
  }
}

/** The bitrate (kb/s) above which more bits no longer improve the picture, for a codec and effort. */
export function saturatingBitrateKbps(
  rendition: Omit<ScoredRendition, 'videoBitrateKbps'>,
  picture: ScoredPicture,
): number {
  const neededKbps = cleanBitrateKbps(picture, rendition) / efficiencyOf(rendition, picture)
  return neededKbps * Math.exp(pictureModelOf(pictureIn(picture)).saturatesAt)
}

/** What the frame rate makes of the picture, 0 to 1. */
function frameRateTerm(framesPerSecond: number, picture: ScoredPicture): number {
  const share = Math.min(1, framesPerSecond / referenceFramesPerSecond)
  const { frameRateSteepness } = pictureModelOf(pictureIn(picture)).values
  return invertedExponential(frameRateSteepness, share ** qualityExponents.frameRate)
}

/**
 * The score, 0 to 100, of a picture that was held against its original frame by frame, at the original's
 * size: what its likeness stands for, times what the frame rate makes of it, which frames held one
 * against one cannot say.
 */
export const scoreOfLikeness = (
  ssim: number,
  framesPerSecond: number,
  picture: ScoredPicture,
): number => scoreFromSsim(ssim) * frameRateTerm(framesPerSecond, picture)

/** What size and frame rate make of the picture, 0 to 1, `ofSize` being what the size alone makes of it. */
function withFrameRate(
  rendition: Pick<ScoredRendition, 'width' | 'height' | 'framesPerSecond'>,
  picture: ScoredPicture,
  ofSize: number,
): number {
  // What was measured may make more of a size than its class does, but nothing is better than clean.
  const size = Math.min(ofSize, 1 / pictureModelOf(pictureIn(picture)).finest(rendition))
  return size * frameRateTerm(rendition.framesPerSecond, picture)
}

/** What size and frame rate make of the picture as it is judged, 0 to 1. */
export function shapeTerm(
  rendition: Pick<ScoredRendition, 'width' | 'height' | 'framesPerSecond'>,
  picture: ScoredPicture,
  screen: Judged,
): number {
  if (typeof screen !== 'string')
    return (
      screen.reduce((sum, each) => sum + shapeTerm(rendition, picture, each), 0) /
      Math.max(1, screen.length)
    )
  if (screen === 'own size') return withFrameRate(rendition, picture, 1)
  const share = (rendition.width * rendition.height) / viewedPixels(rendition, screen)
  const { values } = pictureModelOf(pictureIn(picture))
  const { pixelsSteepnessFactor } = viewerScreenSizes[screen]
  return withFrameRate(rendition, picture, sizeTerm(values, share, pixelsSteepnessFactor))
}

/** The picture score, 0 to 100, of a rendition seen at the size of its original, as it is held against it. */
export function scoreAtSizeOf(
  original: Size,
  rendition: ScoredRendition,
  picture: ScoredPicture,
): number {
  const share = (rendition.width * rendition.height) / (original.width * original.height)
  const ofSize = sizeTerm(pictureModelOf(pictureIn(picture)).values, share)
  return 100 * finenessTerm(rendition, picture) * withFrameRate(rendition, picture, ofSize)
}

/** The word for a score from 0 to 100. The score is rounded first, as it is shown. */
export function scoreWord(score: number): ScoreWord {
  const shown = Math.round(score)
  return scoreWords.find(({ from }) => shown >= from)?.word ?? 'broken'
}
