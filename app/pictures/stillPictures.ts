import { shallowReactive } from 'vue'

/** Widths at which each picture is kept, the largest first; each is drawn from the one before it, which keeps fine lines whole. */
const bitmapWidths = [800, 400, 200] as const
/** Drawn only once a picture is shown wider than that: four times the pixels, for every picture of a show at once. */
const widestWidth = 1600

type Bitmap = HTMLCanvasElement
interface Loaded {
  /** Null until it is there. */
  image: HTMLImageElement | null
  /** The widest first. */
  levels: Bitmap[]
  isMissing: boolean
}
const pictures = shallowReactive(new Map<string, Loaded>())

export const drawingAddress = (name: string): string => `/drawings/${name}.svg`
export const fileAddress = (fileId: string): string => `/api/files/${fileId}`

const heightAt = (width: number, { naturalWidth, naturalHeight }: HTMLImageElement): number =>
  Math.max(1, Math.round((width * naturalHeight) / naturalWidth))

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
  pictures.set(address, { image: null, levels: [], isMissing: false })
  try {
    const image = await loadImage(address)
    const levels: Bitmap[] = []
    for (const width of bitmapWidths)
      levels.push(drawn(levels.at(-1) ?? image, width, heightAt(width, image)))
    pictures.set(address, { image, levels, isMissing: false })
  } catch {
    pictures.set(address, { image: null, levels: [], isMissing: true })
  }
}

function addWidest(address: string, { image, levels, isMissing }: Loaded): void {
  if (!image) return
  const widest = drawn(image, widestWidth, heightAt(widestWidth, image))
  pictures.set(address, { image, levels: [widest, ...levels], isMissing })
}

/**
 * The bitmap of a still picture, the smallest that is at least as wide as it is shown, in screen
 * pixels; undefined until it is there.
 */
export function stillPicture(address: string, shownWidth: number): Bitmap | undefined {
  const picture = pictures.get(address)
  // Not while a component renders: setting reactive state there would render it again at once.
  if (!picture) queueMicrotask(() => pictures.has(address) || void load(address))
  else if (
    picture.image &&
    picture.levels.every(({ width }) => width < Math.min(shownWidth, widestWidth))
  )
    queueMicrotask(() => pictures.get(address) === picture && addWidest(address, picture))
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
