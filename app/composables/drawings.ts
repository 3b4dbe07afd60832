import { shallowReactive } from 'vue'

/** Widths at which each drawing is kept, the largest first; each is drawn from the one before it, which keeps fine lines whole. */
const bitmapWidths = [1600, 800, 400, 200] as const

type Bitmap = HTMLCanvasElement
/** The bitmaps of each drawing, the widest first; empty while it loads or where it is missing. */
const bitmaps = shallowReactive(new Map<string, Bitmap[]>())

export const drawingAddress = (name: string): string => `/drawings/${name}.svg`

function drawn(from: CanvasImageSource, width: number, height: number): Bitmap {
  const bitmap = document.createElement('canvas')
  bitmap.width = width
  bitmap.height = height
  const context = bitmap.getContext('2d')
  if (context) context.imageSmoothingQuality = 'high'
  context?.drawImage(from, 0, 0, width, height)
  return bitmap
}

/** Drawn into bitmaps once: a browser would work an SVG out again at every frame. */
function load(name: string): void {
  bitmaps.set(name, [])
  const image = new Image()
  image.onload = () => {
    const { naturalWidth, naturalHeight } = image
    const levels: Bitmap[] = []
    for (const width of bitmapWidths) {
      const height = Math.max(1, Math.round((width * naturalHeight) / naturalWidth))
      levels.push(drawn(levels.at(-1) ?? image, width, height))
    }
    bitmaps.set(name, levels)
  }
  image.src = drawingAddress(name)
}

/**
 * The bitmap of a drawing that ships with the application, the smallest that is at least as wide as
 * it is shown, in screen pixels; undefined until it is there.
 */
export function drawingBitmap(name: string, shownWidth: number): Bitmap | undefined {
  const levels = bitmaps.get(name)
  // Not while a component renders: setting reactive state there would render it again at once.
  if (!levels) queueMicrotask(() => bitmaps.has(name) || load(name))
  return levels?.findLast(({ width }) => width >= shownWidth) ?? levels?.[0]
}
