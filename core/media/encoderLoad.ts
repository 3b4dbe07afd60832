import type { Rendition } from '../show'

/** Common practice: plan an encoder to this share of what it can do, no published source. */
export const plannedEncoderShare = 0.8

/** Megapixels per second that an encode asks of its encoder. */
export function megapixelsPerSecond(
  rendition: Pick<Rendition, 'width' | 'height' | 'framesPerSecond'>,
): number {
  return (rendition.width * rendition.height * rendition.framesPerSecond) / 1e6
}

/**
 * Share of a device that a set of encodes takes, 1 = all of it. Each encode comes with the
 * throughput, in megapixels per second, that the device has for its codec and effort.
 */
export function encoderLoad(
  encodes: readonly {
    rendition: Pick<Rendition, 'width' | 'height' | 'framesPerSecond'>
    throughputMegapixelsPerSecond: number
  }[],
): number {
  return encodes.reduce(
    (load, encode) =>
      load + megapixelsPerSecond(encode.rendition) / encode.throughputMegapixelsPerSecond,
    0,
  )
}
