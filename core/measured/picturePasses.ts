import type { Effort, Rendition, Size } from '../show'

type Rate = Rendition['framesPerSecond']

/** An encode of a clip that is to be held against it. */
export interface PictureEncode extends Size {
  framesPerSecond: Rate
  /** The clip's frame rate ÷ the encode's: every so many frames are taken. */
  everyFrame: 1 | 2
  videoBitrateKbps: number
}

/** Quick enough for a dozen encodes in a minute and a half, and a usual choice live. */
export const pictureEffort: Effort = 'brisk'

/** How much of a clip is looked at. */
export const maxPictureSeconds = 3
/** A still scene and a lively one. */
export const maxPictureClips = 2
/** A clip is looked at within this box, as on a desk. */
const largest = 1920
const highest = 1080

const smallestShare = 1 / 3
/** Sizes as shares of the clip's sides, whether at half its frame rate, and bits a pixel of each encode. */
const passes = [
  { share: 1, atHalf: false, bitsPerPixel: [0.016, 0.032, 0.08] },
  { share: 2 / 3, atHalf: false, bitsPerPixel: [0.02, 0.05, 0.12] },
  { share: 4 / 9, atHalf: false, bitsPerPixel: [0.03, 0.12] },
  { share: 1, atHalf: true, bitsPerPixel: [0.03, 0.1] },
  { share: 2 / 3, atHalf: true, bitsPerPixel: [0.03, 0.12] },
  { share: smallestShare, atHalf: true, bitsPerPixel: [0.05, 0.15] },
  { share: smallestShare, atHalf: false, bitsPerPixel: [0.04, 0.12] },
] as const

/** A slow clip has no half of its frame rate worth sending; its small size is looked at in full. */
const halfRates: Partial<Record<Rate, Rate>> = { 50: 25, 60: 30 }

const even = (pixels: number): number => Math.max(16, 2 * Math.round(pixels / 2))

/** The size at which a clip is looked at: its own, within what a desk shows, sides even. */
export function referenceSize({ width, height }: Size): Size {
  const long = Math.max(width, height)
  const short = Math.min(width, height)
  const scale = Math.min(1, largest / long, highest / short)
  return { width: even(width * scale), height: even(height * scale) }
}

/** Frame rates that clips have; those of phones wander around them. */
const commonRates = [24, 25, 30, 50, 60] as const satisfies readonly Rate[]

/** The frame rate at which a clip is looked at: the usual one that is nearest. */
export const referenceRate = (framesPerSecond: number): Rate =>
  commonRates.reduce<Rate>(
    (best, rate) =>
      Math.abs(rate - framesPerSecond) < Math.abs(best - framesPerSecond) ? rate : best,
    commonRates[0],
  )

/** The encodes that tell a clip's picture apart: sizes, frame rates and bitrates, 16 at most. */
export function pictureEncodes(clip: Size & { framesPerSecond: Rate }): PictureEncode[] {
  const half = halfRates[clip.framesPerSecond]
  return passes.flatMap(({ share, atHalf, bitsPerPixel }) => {
    // A slow clip is looked at in its own frame rate alone, each size once.
    if (half === undefined && atHalf !== (share === smallestShare)) return []
    const isHalf = atHalf && half !== undefined
    const width = even(clip.width * share)
    const height = even(clip.height * share)
    const framesPerSecond = isHalf ? half : clip.framesPerSecond
    return bitsPerPixel.map((bits) => ({
      ...({ width, height, framesPerSecond, everyFrame: isHalf ? 2 : 1 } as const),
      videoBitrateKbps: Math.max(50, Math.round((width * height * framesPerSecond * bits) / 1000)),
    }))
  })
}
