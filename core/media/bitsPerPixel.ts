import type { Rendition } from '../show'

/** Common-practice reading of bits per pixel for H.264, no published source. */
export const bitsPerPixelReadings = { comfortableForMotion: 0.1, thin: 0.05 } as const

/** Bits spent on each pixel of each frame. */
export function bitsPerPixel(
  rendition: Pick<Rendition, 'width' | 'height' | 'framesPerSecond' | 'videoBitrateKbps'>,
): number {
  const pixelsPerSecond = rendition.width * rendition.height * rendition.framesPerSecond
  return (rendition.videoBitrateKbps * 1000) / pixelsPerSecond
}

/** Bits per pixel in a word, by the common-practice reading for H.264. */
export function bitsPerPixelWord(value: number): 'comfortable' | 'enough' | 'thin' {
  if (value >= bitsPerPixelReadings.comfortableForMotion) return 'comfortable'
  return value > bitsPerPixelReadings.thin ? 'enough' : 'thin'
}
