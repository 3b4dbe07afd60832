import { type CanvasEncodes, plannedShareOf } from '@green-mantle/core/encoding'
import { type Happening, minEncodedSeconds } from '@green-mantle/core/night'
import type { Show } from '@green-mantle/core/show'
import { measurePictureShares } from '../measuring/pictureShare'
import type { CanvasFeed } from './canvasFeed'

interface EncodedCanvas {
  encodes: CanvasEncodes
  feed: CanvasFeed
  /** The file that is looped; null where a program draws it. */
  clip: string | null
}

/**
 * What the encoders took, to be asked while they run; what decoding and scaling take by themselves, where
 * it is measured, once they don't.
 */
export function encodersTook(
  canvases: readonly EncodedCanvas[],
  show: Show,
  measures: boolean,
): () => Promise<Happening[]> {
  const took = canvases.map((canvas) => ({ ...canvas, taken: canvas.feed.taken() }))
  return async () => {
    const ran = took.flatMap(({ taken, ...each }) => (taken ? [{ ...each, taken }] : []))
    const measured = ran.flatMap(({ encodes, clip, taken }) =>
      measures && clip !== null && taken.seconds >= minEncodedSeconds
        ? [{ canvas: encodes, clip }]
        : [],
    )
    const shares = await measurePictureShares(measured)
    return ran.map(({ encodes, taken }) => ({
      ...{ kind: 'encoded', canvas: encodes.canvas, ...taken },
      pictureShare: shares[measured.findIndex(({ canvas }) => canvas === encodes)] ?? null,
      plannedShare: plannedShareOf(show, encodes),
    }))
  }
}
