import { shallowReactive } from 'vue'

/** Widths at which each picture is kept, the largest first; each is drawn from the one before it, which keeps fine lines whole. */
const bitmapWidths = [1600, 800, 400, 200] as const

type Bitmap = HTMLCanvasElement
interface Loaded {
  /** The widest first. */
  levels: Bitmap[]
  isMissing: boolean
}
const pictures = shallowReactive(new Map<string, Loaded>())

export const drawingAddress = (name: string): string => `/drawings/${name}.svg`
export const fileAddress = (fileId: string): string => `/api/files/${fileId}`

function drawn(from: CanvasImageSource, width: number, height: number): Bitmap {
  const bitmap = document.createElement('canvas')
  bitmap.width = width
  bitmap.height = height
  const context = bitmap.getContext('2d')
  if (context) context.imageSmoothingQuality = 'high'
  context?.drawImage(from, 0, 0, width, height)
  return bitmap
}

function loadImage(address: string): Promise<HTMLImageElement> {
  return new Promise((resolve, reject) => {
    const image = new Image()
    image.onload = () => resolve(image)
    image.onerror = () => reject(new Error(`${address} is not there`))
    image.src = address
  })
}

/** Drawn into bitmaps once: a browser would work an SVG out again at every frame. */
async function load(address: string): Promise<void> {
  pictures.set(address, { levels: [], isMissing: false })
  try {
    const image = await loadImage(address)
    const { naturalWidth, naturalHeight } = image
    const levels: Bitmap[] = []
    for (const width of bitmapWidths) {
      const height = Math.max(1, Math.round((width * naturalHeight) / naturalWidth))
      levels.push(drawn(levels.at(-1) ?? image, width, height))
    }
    pictures.set(address, { levels, isMissing: false })
  } catch {
    pictures.set(address, { levels: [], isMissing: true })
  }
}

/**
 * The bitmap of a still picture, the smallest that is at least as wide as it is shown, in screen
 * pixels; undefined until it is there.
 */
export function stillPicture(address: string, shownWidth: number): Bitmap | undefined {
  const picture = pictures.get(address)
  // Not while a component renders: setting reactive state there would render it again at once.
  if (!picture) queueMicrotask(() => pictures.has(address) || void load(address))
  return picture?.levels.findLast(({ width }) => width >= shownWidth) ?? picture?.levels[0]
}

/** Whether a picture was asked for and is not there, as when a show comes from another installation. */
export const isPictureMissing = (address: string): boolean =>
  pictures.get(address)?.isMissing ?? false

/** Asks for a picture again, as after its file was stored. */
export function forgetPicture(address: string): void {
  pictures.delete(address)
}

/** A picture in its own pixels, for files that leave the application. */
export async function fullPicture(address: string, width: number, height: number): Promise<Bitmap> {
  return drawn(await loadImage(address), width, height)
}
