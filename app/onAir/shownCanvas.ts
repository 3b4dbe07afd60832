import type { Size } from '@green-mantle/core/show'

/** While frames are late so many a second are shown: painting the page costs more than drawing what goes out. */
const shownWhileLate = 8

/** What the window shows of a canvas that goes out: a copy, no larger than it is seen. */
export interface ShownCanvas {
  /** How large it is seen, in the screen's own points; null where that is not known. */
  setSeen(size: Size | null): void
  /** Shows a picture that was drawn, or leaves it out; `isLate`: whether frames are late now. */
  show(
    picture: OffscreenCanvas,
    frame: { index: number; framesPerSecond: number; isLate: boolean },
  ): void
}

/** As large as a picture is where it fills a box that large, and never larger than it is. */
function shownSize(picture: Size, seen: Size | null): Size {
  const share = seen ? Math.min(1, seen.width / picture.width, seen.height / picture.height) : 1
  return {
    width: Math.max(1, Math.round(picture.width * share)),
    height: Math.max(1, Math.round(picture.height * share)),
  }
}

export function newShownCanvas(canvas: OffscreenCanvas): ShownCanvas {
  const context = canvas.getContext('2d', { alpha: false })
  if (!context) throw new Error('This browser has no canvas in a worker.')
  let seen: Size | null = null
  return {
    setSeen: (size) => (seen = size),
    show(picture, { index, framesPerSecond, isLate }) {
      const every = isLate ? Math.max(1, Math.round(framesPerSecond / shownWhileLate)) : 1
      if (index % every !== 0) return
      const { width, height } = shownSize(picture, seen)
      if (canvas.width !== width || canvas.height !== height)
        Object.assign(canvas, { width, height })
      context.imageSmoothingQuality = 'medium'
      context.drawImage(picture, 0, 0, width, height)
    },
  }
}
