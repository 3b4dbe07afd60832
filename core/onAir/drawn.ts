import { canvasEncodesOf } from '../encoding'
import type { CanvasName, Show } from '../show'

/** Where nothing is planned for a canvas yet. */
const defaultFramesPerSecond = 30

/** How often a canvas is drawn: as often as the most frequent encode that is planned of it. */
export function onAirFramesPerSecond(show: Show, canvas: CanvasName): number {
  const planned = canvasEncodesOf(show)
    .filter((each) => each.canvas === canvas)
    .flatMap(({ encodes }) => encodes.map(({ encode }) => encode.rendition.framesPerSecond))
  return planned.length > 0 ? Math.max(...planned) : defaultFramesPerSecond
}

/** Bits a pixel at which encoding once more costs hardly anything that is seen; ours, see docs/on-air.md. */
const nearlyLosslessBitsPerPixel = 0.25

/** The bitrate of the one encode of a canvas that the others are made of. */
export const onAirKbps = (
  { width, height }: { width: number; height: number },
  framesPerSecond: number,
): number =>
  Math.max(2000, Math.round((width * height * framesPerSecond * nearlyLosslessBitsPerPixel) / 1000))

/** A new group of pictures begins so often: a window that comes back joins at one. */
export const onAirKeyframeSeconds = 1
