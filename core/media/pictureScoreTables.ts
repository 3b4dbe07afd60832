import type { Codec, Effort, PictureKind, ViewerScreen } from '../show'

/**
 * Every number of the picture score in one place, so that a later measured fit can replace them.
 * The forms are published (Ma, Xu, Wang 2012 for the rate; Ou, Xue, Wang 2014, "Q-STAR", for the
 * quality; forms and typical values from memory). The class values are set by us to reproduce
 * common practice.
 */
export interface PictureClass {
  /** kb/s for a clean H.264 picture of 1920×1080 at 60 frames a second. */
  cleanBitrateKbps: number
  /** Exponents of the rate model: quantisation, frame rate, pixels. */
  quantisationExponent: number
  frameRateExponent: number
  pixelsExponent: number
  /** Steepness of the quality model: quantisation, pixels, frame rate. */
  quantisationSteepness: number
  pixelsSteepness: number
  frameRateSteepness: number
}

export const pictureClasses = {
  talking: {
    cleanBitrateKbps: 7_000,
    quantisationExponent: 1.2,
    frameRateExponent: 0.45,
    pixelsExponent: 0.75,
    quantisationSteepness: 5.5,
    pixelsSteepness: 4.5,
    frameRateSteepness: 5.5,
  },
  hands: {
    cleanBitrateKbps: 11_000,
    quantisationExponent: 1.2,
    frameRateExponent: 0.55,
    pixelsExponent: 0.78,
    quantisationSteepness: 5.5,
    pixelsSteepness: 4.2,
    frameRateSteepness: 4.0,
  },
  action: {
    cleanBitrateKbps: 22_000,
    quantisationExponent: 1.2,
    frameRateExponent: 0.65,
    pixelsExponent: 0.8,
    quantisationSteepness: 5.5,
    pixelsSteepness: 4.0,
    frameRateSteepness: 2.4,
  },
} as const satisfies Record<PictureKind, PictureClass>

/** Exponents that the quality model applies to the share of pixels and of frames. */
export const qualityExponents = { pixels: 0.74, frameRate: 0.63 } as const

export const referencePixels = 1920 * 1080
export const referenceFramesPerSecond = 60

/** What a codec gets out of a bit, with H.264 as 1; our working values until measured. */
export const codecEfficiency = { h264: 1, hevc: 1.4, av1: 1.6 } as const satisfies Record<
  Codec,
  number
>

const newerEffortEfficiency = {
  fastest: 0.68,
  brisk: 0.84,
  balanced: 0.92,
  fine: 0.97,
  finest: 1,
} as const satisfies Record<Effort, number>

/**
 * What an encoder's effort gets out of a bit; our working values, of which H.264's fastest was measured
 * by us on real encodes at 0.8 to 0.9 of its finest, and the others held within 10 %.
 */
export const effortEfficiency = {
  h264: { ...newerEffortEfficiency, fastest: 0.8 },
  hevc: newerEffortEfficiency,
  av1: newerEffortEfficiency,
} as const satisfies Record<Codec, Record<Effort, number>>

/** With so many frames of look-ahead the software H.264 encoder has all that it gets out of them. */
export const enoughLookAheadFrames = 20
/**
 * The share of bits that H.264 wastes without look-ahead. Calm pictures measured by us on real encodes
 * (23 % fewer bits with 20 frames); the others are working values of ours.
 */
export const lookAheadSaving = { talking: 0.23, hands: 0.1, action: 0 } as const satisfies Record<
  PictureKind,
  number
>

/** The screens viewers use, in pixels; a phone can be turned and forgives a smaller picture. */
export const viewerScreenSizes = {
  desk: { width: 1920, height: 1080, canTurn: false, pixelsSteepnessFactor: 1 },
  tv: { width: 3840, height: 2160, canTurn: false, pixelsSteepnessFactor: 1 },
  phone: { width: 1080, height: 1920, canTurn: true, pixelsSteepnessFactor: 1.4 },
} as const satisfies Record<
  ViewerScreen,
  { width: number; height: number; canTurn: boolean; pixelsSteepnessFactor: number }
>

/** The word for a score, from the best down. */
export const scoreWords = [
  { from: 90, word: 'clean' },
  { from: 80, word: 'good' },
  { from: 65, word: 'soft' },
  { from: 50, word: 'rough' },
  { from: 0, word: 'broken' },
] as const
export type ScoreWord = (typeof scoreWords)[number]['word']
