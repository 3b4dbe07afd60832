import type { ChromaKey } from '@green-mantle/core/show'
import { transfer } from 'comlink'
import { shallowRef, type ShallowRef } from 'vue'
import { keyingWorker } from '~/workers/workers'
import { redrawSoon } from './playback'

type Picture = HTMLCanvasElement | HTMLVideoElement

interface Keyed {
  surface: HTMLCanvasElement
  /** Goes up with each picture, so that what shows it is drawn again. */
  version: ShallowRef<number>
  picture: Picture
  chromaKey?: ChromaKey
  isBusy: boolean
  /** Asked for while the worker was at it. */
  isWanted: boolean
}

/** A source may be drawn from pictures of several sizes at once, each with a keyed one beside it. */
const keyedBySource = new Map<string, WeakMap<Picture, Keyed>>()

function entry(sourceId: string, picture: Picture): Keyed {
  const ofSource = keyedBySource.get(sourceId) ?? new WeakMap<Picture, Keyed>()
  keyedBySource.set(sourceId, ofSource)
  const known = ofSource.get(picture)
  if (known) return known
  const surface = document.createElement('canvas')
  surface.width = surface.height = 1
  const fresh = { surface, picture, version: shallowRef(0), isBusy: false, isWanted: false }
  ofSource.set(picture, fresh)
  return fresh
}

/** A canvas on screen is hardly ever wider; keying what nobody sees would cost frames. */
const maxKeyedWidth = 960

function bitmapOf(picture: Picture): Promise<ImageBitmap> {
  const isVideo = picture instanceof HTMLVideoElement
  const width = isVideo ? picture.videoWidth : picture.width
  const height = isVideo ? picture.videoHeight : picture.height
  if (width <= maxKeyedWidth) return createImageBitmap(picture)
  return createImageBitmap(picture, {
    resizeWidth: maxKeyedWidth,
    resizeHeight: Math.max(1, Math.round((height * maxKeyedWidth) / width)),
  })
}

async function work(keyed: Keyed): Promise<void> {
  const { picture, chromaKey, surface } = keyed
  if (!chromaKey) return
  if (keyed.isBusy) {
    keyed.isWanted = true
    return
  }
  keyed.isBusy = true
  keyed.isWanted = false
  try {
    const bitmap = await bitmapOf(picture)
    const result = await keyingWorker().key(transfer(bitmap, [bitmap]), { ...chromaKey })
    if (surface.width !== result.width || surface.height !== result.height) {
      surface.width = result.width
      surface.height = result.height
    }
    const context = surface.getContext('2d')
    context?.clearRect(0, 0, surface.width, surface.height)
    context?.drawImage(result, 0, 0)
    result.close()
  } catch (error) {
    console.warn('A frame could not be keyed:', error)
  }
  keyed.isBusy = false
  if (keyed.isWanted) void work(keyed)
  // A moving picture is redrawn by the frame, a still one when its shapes are made again.
  redrawSoon()
}

/** The picture with its backdrop transparent, worked out in the background; empty until it is there. */
export function keyedPicture(
  sourceId: string,
  picture: Picture,
  chromaKey: ChromaKey,
): HTMLCanvasElement {
  const keyed = entry(sourceId, picture)
  if (keyed.chromaKey !== chromaKey) {
    keyed.chromaKey = chromaKey
    void work(keyed).then(() => (keyed.version.value += 1))
  }
  // Read, so that whoever draws the surface does so again when it has been filled.
  void keyed.version.value
  return keyed.surface
}

/** Keys the next frame of a moving picture, unless the last one is still at it. */
export function keyNextFrame(sourceId: string, picture: Picture): void {
  const keyed = keyedBySource.get(sourceId)?.get(picture)
  if (keyed && !keyed.isBusy) void work(keyed)
}
