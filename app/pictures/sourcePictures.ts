import type { Source } from '@green-mantle/core/show'
import { shallowReactive } from 'vue'
import { keyedPicture, keyNextFrame } from './keyedPictures'
import { isPlaying, startMoving } from './playback'
import { paintMoving } from './standInMotion'
import { drawingAddress, fileAddress, isPictureMissing, stillPicture } from './stillPictures'

type Picture = HTMLCanvasElement | HTMLVideoElement

/** A moving picture is painted no larger than it is shown: each width costs twice the one before it squared. */
const movingWidths = [120, 240, 480, 960] as const
const movingWidthFor = (shownWidth: number): number =>
  movingWidths.find((width) => width >= shownWidth) ?? 960

interface MovingPicture {
  element: Picture
  stop(): void
}
/** Media files that were asked for and are not there. */
const missingMedia = shallowReactive(new Set<string>())
const movingBySource = shallowReactive(new Map<string, MovingPicture>())
const liveBySource = shallowReactive(new Map<string, MovingPicture & { stream: MediaStream }>())

/** Where a source's still picture is to be had; undefined for one made of words or colour. */
export function addressOf({ appearance }: Pick<Source, 'appearance'>): string | undefined {
  if (appearance.type === 'drawing') return drawingAddress(appearance.drawing)
  if (appearance.type === 'picture file') return fileAddress(appearance.fileId)
  return undefined
}

/** A drawing that moves at its own frame rate. */
function movingDrawing(
  source: Source,
  drawing: string,
  bitmap: CanvasImageSource,
  width: number,
): MovingPicture {
  const element = document.createElement('canvas')
  element.width = Math.min(source.nativeWidth, width)
  element.height = Math.max(
    1,
    Math.round((element.width * source.nativeHeight) / source.nativeWidth),
  )
  const context = element.getContext('2d')
  const framesPerSecond = source.nativeFramesPerSecond ?? 1
  let painted = -1
  const paint = (seconds: number): boolean => {
    const frame = Math.floor(seconds * framesPerSecond)
    if (frame === painted || !context) return false
    painted = frame
    paintMoving(context, drawing, bitmap, frame / framesPerSecond)
    keyNextFrame(source.id, element)
    return true
  }
  paint(0)
  return { element, stop: startMoving({ paint }) }
}

/** A person's own moving picture, muted; it stands on its first frame until the application plays. */
function mediaFile(source: Source, address: string): MovingPicture {
  const element = document.createElement('video')
  element.muted = true
  element.loop = true
  element.playsInline = true
  element.preload = 'auto'
  element.addEventListener('error', () => missingMedia.add(address))
  element.src = address
  let shown = -1
  const paint = (): boolean => {
    if (element.paused === isPlaying.value) {
      if (isPlaying.value) void element.play().catch(() => undefined)
      else element.pause()
    }
    if (element.readyState < 2 || element.currentTime === shown) return false
    shown = element.currentTime
    keyNextFrame(source.id, element)
    return true
  }
  // It has to show its first frame, and to come to rest, although nothing plays.
  return { element, stop: startMoving({ paint }, { always: true }) }
}

function movingPicture(key: string, make: () => MovingPicture): MovingPicture | undefined {
  const known = movingBySource.get(key)
  // Not while a component renders: setting reactive state there would render it again at once.
  if (!known)
    queueMicrotask(() => {
      if (!movingBySource.has(key)) movingBySource.set(key, make())
    })
  return known
}

/** The picture of a source as it is at the moment; undefined while it loads or where it has none. */
function bare(source: Source, shownWidth: number): Picture | undefined {
  const liveOne = liveBySource.get(source.id)
  if (liveOne) return liveOne.element
  const { appearance } = source
  if (appearance.type === 'media file')
    return movingPicture(`${source.id} ${appearance.fileId}`, () =>
      mediaFile(source, fileAddress(appearance.fileId)),
    )?.element
  const address = addressOf(source)
  if (!address) return undefined
  const bitmap = stillPicture(address, shownWidth)
  const moves =
    isPlaying.value && appearance.type === 'drawing' && source.nativeFramesPerSecond !== null
  if (!moves || !bitmap) return bitmap
  const { drawing } = appearance
  const width = movingWidthFor(shownWidth)
  const moving = movingPicture(`${source.id} ${drawing} ${width}`, () =>
    movingDrawing(source, drawing, stillPicture(address, width) ?? bitmap, width),
  )
  return moving?.element ?? bitmap
}

/** The picture to draw for a source at a width in screen pixels, its backdrop keyed out where that is set. */
export function pictureOf(source: Source, shownWidth: number): Picture | undefined {
  const picture = bare(source, shownWidth)
  const { chromaKey } = source
  return picture && chromaKey?.on ? keyedPicture(source.id, picture, chromaKey) : picture
}

/** Whether the file of a source is not kept here, as when its show comes from another installation. */
export function isFileMissing(source: Source): boolean {
  const { appearance } = source
  if (appearance.type === 'media file') return missingMedia.has(fileAddress(appearance.fileId))
  const address = addressOf(source)
  return address !== undefined && isPictureMissing(address)
}

/** The same without the key, for taking a colour from. */
export const unkeyedPictureOf = (source: Source): Picture | undefined => bare(source, 1600)

/** Shows a real camera or screen in place of a source's picture; the pictures stay in this tab. */
export function showLive(sourceId: string, stream: MediaStream): void {
  stopLive(sourceId)
  const element = document.createElement('video')
  element.muted = true
  element.playsInline = true
  element.srcObject = stream
  void element.play().catch(() => undefined)
  let shown = -1
  const paint = (): boolean => {
    if (element.readyState < 2 || element.currentTime === shown) return false
    shown = element.currentTime
    keyNextFrame(sourceId, element)
    return true
  }
  const stopMoving = startMoving({ paint }, { always: true })
  const stop = (): void => {
    stopMoving()
    for (const track of stream.getTracks()) track.stop()
    element.srcObject = null
  }
  liveBySource.set(sourceId, { element, stream, stop })
  // Ended by the browser's own button, or by pulling the plug.
  for (const track of stream.getTracks())
    track.addEventListener('ended', () => {
      if (liveBySource.get(sourceId)?.stream === stream) stopLive(sourceId)
    })
}

export function stopLive(sourceId: string): void {
  liveBySource.get(sourceId)?.stop()
  liveBySource.delete(sourceId)
}

export const isLive = (sourceId: string): boolean => liveBySource.has(sourceId)

/** Lets go of every moving picture, as when a show is left. */
export function releasePictures(): void {
  for (const id of [...liveBySource.keys()]) stopLive(id)
  for (const { stop, element } of movingBySource.values()) {
    stop()
    if (element instanceof HTMLVideoElement) element.removeAttribute('src')
  }
  movingBySource.clear()
}
