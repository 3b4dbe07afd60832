import type { Placement, Size, Trim } from '../show'
import type { Box } from './geometry'
import { usedPart } from './trim'

/** Where the parts of a goal bar stand inside its box, in canvas pixels. */
export interface GoalBarParts {
  cornerRadius: number
  label: Box & { fontSize: number }
  track: Box
  filled: Box
}

export function goalBarParts({ width, height }: Size, percent: number): GoalBarParts {
  const margin = height * 0.18
  const barHeight = height * 0.24
  const track = {
    x: margin,
    y: height - margin - barHeight,
    width: Math.max(0, width - 2 * margin),
    height: barHeight,
  }
  return {
    cornerRadius: height * 0.12,
    label: {
      x: margin,
      y: margin,
      width: track.width,
      height: height * 0.32,
      fontSize: height * 0.28,
    },
    track,
    filled: { ...track, width: (track.width * percent) / 100 },
  }
}

/** The size of a single line of words that fills its box's height, and its width where the words are long. */
export function captionFontSize({ width, height }: Size, characters: number): number {
  const averageCharacterWidth = 0.52
  return Math.max(
    4,
    Math.min(height * 0.62, width / (averageCharacterWidth * Math.max(1, characters))),
  )
}

/** The used part of a source in the pixels of a bitmap that was drawn of the whole of it. */
export function cropOf(native: Size, trim: Trim, bitmap: Size): Box {
  const used = usedPart(native, trim)
  const across = bitmap.width / native.width
  const down = bitmap.height / native.height
  return {
    x: used.x * across,
    y: used.y * down,
    width: used.width * across,
    height: used.height * down,
  }
}

/** How wide the whole source would be on the screen, in screen pixels, at the scale at which a canvas is drawn. */
export function shownSourceWidth(
  placement: Pick<Placement, 'width' | 'trim'>,
  native: Size,
  screenPixelsPerCanvasPixel: number,
): number {
  const used = usedPart(native, placement.trim)
  return (placement.width / used.width) * native.width * screenPixelsPerCanvasPixel
}

/** How large to draw a canvas of this size so that it fits a space on the screen. */
export function displayScale(canvas: Size, space: Size): number {
  return Math.max(0.02, Math.min(space.width / canvas.width, space.height / canvas.height))
}
