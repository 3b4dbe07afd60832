import { makeKeyer } from '@green-mantle/core/picture'
import type { Source } from '@green-mantle/core/show'
import type { SizedPicture } from './paintPlacement'

/** A canvas is hardly ever wider than this share needs; keying more pixels would cost frames. */
const maxKeyedWidth = 960
/** Of a device that went its last picture stays so long. */
const lastPictureMilliseconds = 1000

interface Live {
  frame: VideoFrame | null
  /** Goes up with each frame. */
  version: number
  reader: ReadableStreamDefaultReader<VideoFrame>
  /** When it ended; null while it goes. */
  endedAt: number | null
}
interface Keyed {
  surface: OffscreenCanvas
  of: string
}

/** The pictures of sources as they are now: still ones, and frames of devices and films as they come. */
export function newPictureSources(clock: () => number) {
  const stills = new Map<string, ImageBitmap>()
  const lives = new Map<string, Live>()
  const keyed = new Map<string, Keyed>()

  async function follow(id: string, live: Live): Promise<void> {
    try {
      for (;;) {
        const { done, value } = await live.reader.read()
        if (done) break
        live.frame?.close()
        live.frame = value
        live.version += 1
        if (lives.get(id) !== live) break
      }
    } catch {
      // The device is gone, which is seen by its end.
    }
    live.endedAt = clock()
    if (lives.get(id) !== live) live.frame?.close()
  }

  function letGo(id: string): void {
    const live = lives.get(id)
    lives.delete(id)
    void live?.reader.cancel().catch(() => {})
    if (live?.endedAt !== null) live?.frame?.close()
  }

  /** The picture with its backdrop made transparent, worked out once for each frame. */
  function keyedPicture(source: Source, picture: SizedPicture, version: string): SizedPicture {
    const { chromaKey } = source
    if (!chromaKey?.on) return picture
    const width = Math.min(picture.width, maxKeyedWidth)
    const height = Math.max(1, Math.round((picture.height * width) / picture.width))
    const of = `${version} ${JSON.stringify(chromaKey)}`
    const known = keyed.get(source.id)
    const surface = known?.surface ?? new OffscreenCanvas(1, 1)
    if (known?.of !== of) {
      surface.width = width
      surface.height = height
      const context = surface.getContext('2d', { willReadFrequently: true })
      context?.drawImage(picture.image, 0, 0, width, height)
      const image = context?.getImageData(0, 0, width, height)
      if (image) {
        makeKeyer(chromaKey)(image.data)
        context?.putImageData(image, 0, 0)
      }
      keyed.set(source.id, { surface, of })
    }
    return { image: surface, width, height }
  }

  /** Whether a source's device has been gone for longer than its last picture stays. */
  function isGone(id: string): boolean {
    const endedAt = lives.get(id)?.endedAt ?? null
    return endedAt !== null && clock() - endedAt > lastPictureMilliseconds
  }

  return {
    isGone,
    setStill(id: string, bitmap: ImageBitmap | null): void {
      stills.get(id)?.close()
      if (bitmap) stills.set(id, bitmap)
      else stills.delete(id)
    },
    /** Frames of a camera, screen or film; null where it has none any more. */
    setFrames(id: string, frames: ReadableStream<VideoFrame> | null): void {
      letGo(id)
      if (!frames) return
      const live: Live = { frame: null, version: 0, reader: frames.getReader(), endedAt: null }
      lives.set(id, live)
      void follow(id, live)
    },
    /** Undefined where it has none, and where its device is gone: a plain card stands there. */
    pictureOf(source: Source): SizedPicture | undefined {
      const live = lives.get(source.id)
      if (isGone(source.id)) return undefined
      if (live?.frame) {
        const { displayWidth, displayHeight } = live.frame
        const picture = { image: live.frame, width: displayWidth, height: displayHeight }
        return keyedPicture(source, picture, `live ${live.version}`)
      }
      const still = stills.get(source.id)
      if (!still) return undefined
      const picture = { image: still, width: still.width, height: still.height }
      return keyedPicture(source, picture, 'still')
    },
    end(): void {
      for (const id of [...lives.keys()]) letGo(id)
      for (const bitmap of stills.values()) bitmap.close()
      stills.clear()
    },
  }
}
