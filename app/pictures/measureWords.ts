import type { MeasureWords } from '@green-mantle/core/canvas'
import { shallowRef } from 'vue'
import { fontFamilies } from './fontFamilies'

/** Measured large, so that rounding does not show. */
const measuredAt = 100
const surface = document.createElement('canvas').getContext('2d')
const widths = new Map<string, number>()

/** How often fonts have come; who lays words out, or has drawn them, does so anew then. */
export const fontLoads = shallowRef(0)
// Not where there is no browser, as in tests of components.
if ('fonts' in document)
  document.fonts.addEventListener('loadingdone', () => (fontLoads.value += 1))

/** How wide a text is in a font of one pixel, by the browser's own fonts. */
export const measureWords: MeasureWords = (text, font, weight) => {
  const key = `${weight} ${font} ${text}`
  const known = widths.get(key)
  if (known !== undefined || !surface) return known ?? text.length * 0.52
  // Asked for, so that what computes a layout does so again when the font is there.
  void fontLoads.value
  surface.font = `${weight} ${measuredAt}px "${fontFamilies[font]}"`
  const width = surface.measureText(text).width / measuredAt
  // Until the font has loaded, widths are another font's.
  if (document.fonts.check(surface.font)) widths.set(key, width)
  return width
}
