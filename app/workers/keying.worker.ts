import { type Keyer, makeKeyer } from '@green-mantle/core/picture'
import type { ChromaKey } from '@green-mantle/core/show'
import { expose, transfer } from 'comlink'

const surface = new OffscreenCanvas(1, 1)
const context = surface.getContext('2d', { willReadFrequently: true })

/** The last key of each source that is keyed at the moment; a frame comes many times a second, a key seldom. */
const keyers = new Map<string, Keyer>()
const keyersKept = 16

function keyerFor(chromaKey: ChromaKey): Keyer {
  const name = JSON.stringify(chromaKey)
  const known = keyers.get(name)
  if (known) return known
  if (keyers.size >= keyersKept) keyers.clear()
  const fresh = makeKeyer(chromaKey)
  keyers.set(name, fresh)
  return fresh
}

/** Makes a picture's backdrop transparent; takes and gives bitmaps without copying them. */
function key(picture: ImageBitmap, chromaKey: ChromaKey): ImageBitmap {
  if (!context) throw new Error('this browser has no canvas in a worker')
  surface.width = picture.width
  surface.height = picture.height
  context.drawImage(picture, 0, 0)
  picture.close()
  const image = context.getImageData(0, 0, surface.width, surface.height)
  keyerFor(chromaKey)(image.data)
  context.putImageData(image, 0, 0)
  const result = surface.transferToImageBitmap()
  return transfer(result, [result])
}

const worker = { key }
export type KeyingWorker = typeof worker
expose(worker)
