import { keyPicture } from '@green-mantle/core/picture'
import type { ChromaKey } from '@green-mantle/core/show'
import { expose, transfer } from 'comlink'

const surface = new OffscreenCanvas(1, 1)
const context = surface.getContext('2d', { willReadFrequently: true })

/** Makes a picture's backdrop transparent; takes and gives bitmaps without copying them. */
function key(picture: ImageBitmap, chromaKey: ChromaKey): ImageBitmap {
  if (!context) throw new Error('this browser has no canvas in a worker')
  surface.width = picture.width
  surface.height = picture.height
  context.drawImage(picture, 0, 0)
  picture.close()
  const image = context.getImageData(0, 0, surface.width, surface.height)
  keyPicture(image.data, chromaKey)
  context.putImageData(image, 0, 0)
  const result = surface.transferToImageBitmap()
  return transfer(result, [result])
}

const worker = { key }
export type KeyingWorker = typeof worker
expose(worker)
