import type { Destination, Rendition } from '../show'

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

/** What must be the same for two destinations to be served by one encode. */
function encodeKey(canvas: Destination['canvas'], rendition: Rendition): string {
  const { id: _id, ...settings } = rendition
  return JSON.stringify([canvas, Object.entries(settings).sort(([a], [b]) => a.localeCompare(b))])
}

/**
 * How many encoders run for these destinations: renditions that are alike in every respect, on the
 * same canvas, share one. A hand-off's program always encodes for itself.
 */
export function countEncodes(destinations: readonly Destination[]): number {
  const keys = destinations.flatMap((destination) =>
    destination.renditions.map((rendition) =>
      destination.connection === 'hand-off'
        ? `own program ${destination.id} ${rendition.id}`
        : encodeKey(destination.canvas, rendition),
    ),
  )
  return new Set(keys).size
}
