import { shallowReactive } from 'vue'

/** Wider bitmaps than this gain nothing at the size canvases are shown. */
const widestBitmap = 1600

const bitmaps = shallowReactive(new Map<string, HTMLCanvasElement | 'loading' | 'missing'>())

export const drawingAddress = (name: string): string => `/drawings/${name}.svg`

/** Drawn once into a bitmap: a browser would work an SVG out again at every frame. */
function load(name: string): void {
  bitmaps.set(name, 'loading')
  const image = new Image()
  image.onload = () => {
    const scale = Math.min(1, widestBitmap / image.naturalWidth)
    const bitmap = document.createElement('canvas')
    bitmap.width = Math.round(image.naturalWidth * scale)
    bitmap.height = Math.round(image.naturalHeight * scale)
    bitmap.getContext('2d')?.drawImage(image, 0, 0, bitmap.width, bitmap.height)
    bitmaps.set(name, bitmap)
  }
  image.onerror = () => bitmaps.set(name, 'missing')
  image.src = drawingAddress(name)
}

/** The bitmap of a drawing that ships with the application; undefined until it is there. */
export function drawingBitmap(name: string): HTMLCanvasElement | undefined {
  const found = bitmaps.get(name)
  // Not while a component renders: setting reactive state there would render it again at once.
  if (found === undefined) queueMicrotask(() => bitmaps.has(name) || load(name))
  return found instanceof HTMLCanvasElement ? found : undefined
}
