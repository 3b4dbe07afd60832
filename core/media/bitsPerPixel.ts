import type { Codec, Rendition } from '../show'
import { codecEfficiency } from './pictureScoreTables'

/** Common-practice reading of bits per pixel for H.264, no published source. */
export const bitsPerPixelReadings = { comfortableForMotion: 0.1, thin: 0.05 } as const

/** Bits spent on each pixel of each frame. */
export function bitsPerPixel(
  rendition: Pick<Rendition, 'width' | 'height' | 'framesPerSecond' | 'videoBitrateKbps'>,
): number {
  const pixelsPerSecond = rendition.width * rendition.height * rendition.framesPerSecond
  return (rendition.videoBitrateKbps * 1000) / pixelsPerSecond
}

/**
 * Below so many bits per pixel H.264 leaves no picture that anybody would send: a tenth of what is called
 * thin, our working value.
 */
const fewestBitsPerPixel = 0.005

/** The lowest video bitrate, kb/s, at which a picture is worth sending when nobody insists on it. */
export const leastWatchableKbps = ({
  width,
  height,
  framesPerSecond,
  codec,
}: Pick<Rendition, 'width' | 'height' | 'framesPerSecond' | 'codec'>): number =>
  ((fewestBitsPerPixel / codecEfficiency[codec]) * width * height * framesPerSecond) / 1000

/** From how many bits per pixel a codec's picture reads as comfortable or thin: the fewer the more it gets out of a bit. */
export const bitsPerPixelReadingsOf = (
  codec: Codec,
): { comfortableForMotion: number; thin: number } => ({
  comfortableForMotion: bitsPerPixelReadings.comfortableForMotion / codecEfficiency[codec],
  thin: bitsPerPixelReadings.thin / codecEfficiency[codec],
})

/** Bits per pixel in a word, by the common-practice reading for its codec. */
export function bitsPerPixelWord(value: number, codec: Codec): 'comfortable' | 'enough' | 'thin' {
  const { comfortableForMotion, thin } = bitsPerPixelReadingsOf(codec)
  if (value >= comfortableForMotion) return 'comfortable'
  return value > thin ? 'enough' : 'thin'
}
