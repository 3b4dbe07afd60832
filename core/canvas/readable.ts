import type { Placement, Size, Source, TextAppearance } from '../show'
import { captionFontSize, goalBarParts } from './content'

/**
 * Words below this share of the canvas's height are too small to be read on a phone. Set by us:
 * 2 % of an upright phone's picture is about 3 mm. No published source for live pictures.
 */
export const readableShare = 0.02

/** How much larger than in its own pixels a text is drawn. One that wraps keeps its area, so that a narrower box has more lines. */
export function textScale(
  box: Size,
  source: Pick<Source, 'nativeWidth' | 'nativeHeight'>,
  wrap: boolean,
): number {
  const across = box.width / source.nativeWidth
  const down = box.height / source.nativeHeight
  return wrap ? Math.sqrt(across * down) : Math.min(across, down)
}

/** The height of the letters' em of a text on the canvas, in canvas pixels. */
export function textFontSize(
  box: Size,
  source: Pick<Source, 'nativeWidth' | 'nativeHeight'>,
  { sizePixels, wrap }: Pick<TextAppearance, 'sizePixels' | 'wrap'>,
): number {
  return sizePixels * textScale(box, source, wrap)
}

/** The size of the words in a placement, in canvas pixels; null for a source that has none of its own. */
export function wordsSize(
  placement: Pick<Placement, 'width' | 'height'>,
  source: Pick<Source, 'appearance' | 'nativeWidth' | 'nativeHeight'>,
): number | null {
  const { appearance } = source
  if (appearance.type === 'text') return textFontSize(placement, source, appearance)
  if (appearance.type === 'alerts') return captionFontSize(placement, appearance.text.length)
  if (appearance.type === 'goal bar')
    return goalBarParts(placement, appearance.percent).label.fontSize
  return null
}

/** Whether the words of a placement can be read on a canvas of this size; true where it has none. */
export function isReadable(
  placement: Pick<Placement, 'width' | 'height'>,
  source: Pick<Source, 'appearance' | 'nativeWidth' | 'nativeHeight'>,
  canvas: Size,
): boolean {
  const size = wordsSize(placement, source)
  return size === null || size >= readableShare * canvas.height - 1e-6
}
