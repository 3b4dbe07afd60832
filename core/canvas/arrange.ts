import type { Placement, Size } from '../show'
import { boundsOf } from './geometry'
import { usedPart } from './trim'

/** Coordinates are kept to hundredths of a pixel, so that typed and dragged values stay readable. */
const tidy = (value: number): number => Math.round(value * 100) / 100

/** Sides never fall below this, in canvas pixels. */
export const smallestPlacedSide = 1

export function moved(placement: Placement, acrossPixels: number, downPixels: number): Placement {
  return { ...placement, x: tidy(placement.x + acrossPixels), y: tidy(placement.y + downPixels) }
}

/** Gives a placement a new upright box in canvas pixels; sides are held at one pixel or more. */
export function withBox(
  placement: Placement,
  box: Partial<Pick<Placement, 'x' | 'y' | 'width' | 'height' | 'turnDegrees'>>,
): Placement {
  const next = { ...placement, ...box }
  return {
    ...next,
    x: tidy(next.x),
    y: tidy(next.y),
    width: tidy(Math.max(smallestPlacedSide, next.width)),
    height: tidy(Math.max(smallestPlacedSide, next.height)),
    turnDegrees: tidy(next.turnDegrees % 360),
  }
}

/** Puts the middle in the middle of the canvas, across, down or both. */
export function centred(
  placement: Placement,
  canvas: Size,
  axis: 'across' | 'down' | 'both',
): Placement {
  return withBox(placement, {
    ...(axis === 'down' ? {} : { x: (canvas.width - placement.width) / 2 }),
    ...(axis === 'across' ? {} : { y: (canvas.height - placement.height) / 2 }),
  })
}

/**
 * Scales a placement in its source's own proportions and puts it in the middle: `fit` shows all of
 * it, `fill` leaves nothing of the canvas bare. A turned placement is measured by its bounds.
 */
export function scaledTo(
  placement: Placement,
  native: Size,
  canvas: Size,
  how: 'fit' | 'fill',
): Placement {
  const used = usedPart(native, placement.trim)
  const bounds = boundsOf({ ...used, turnDegrees: placement.turnDegrees })
  const across = canvas.width / bounds.width
  const down = canvas.height / bounds.height
  const scale = how === 'fit' ? Math.min(across, down) : Math.max(across, down)
  const sized = withBox(placement, { width: used.width * scale, height: used.height * scale })
  return centred(sized, canvas, 'both')
}

/** Turns by a quarter, clockwise, about the middle. */
export function turnedByQuarter(placement: Placement): Placement {
  return withBox(placement, { turnDegrees: placement.turnDegrees + 90 })
}

/** Covers the whole canvas, whatever that does to the proportions; the turn is taken back. */
export function stretched(placement: Placement, canvas: Size): Placement {
  return withBox(placement, { x: 0, y: 0, ...canvas, turnDegrees: 0 })
}

/** Gives a placement back the proportions of the part of the source that it shows, about its middle, by its width. */
export function inProportion(placement: Placement, native: Size): Placement {
  const used = usedPart(native, placement.trim)
  const height = (placement.width * used.height) / used.width
  return withBox(placement, { height, y: placement.y + (placement.height - height) / 2 })
}

/**
 * A placement that stands on one canvas as another does on the other: same trim, flip, turn, opacity
 * and corners, in the same place relative to the middle, scaled by the ratio of the canvases' shorter
 * sides. Whether it is shown and locked stays its own.
 */
export function sameAs(
  placement: Placement,
  other: Placement,
  canvas: Size,
  otherCanvas: Size,
): Placement {
  const scale =
    Math.min(canvas.width, canvas.height) / Math.min(otherCanvas.width, otherCanvas.height)
  const width = other.width * scale
  const height = other.height * scale
  const across = (other.x + other.width / 2) / otherCanvas.width
  const down = (other.y + other.height / 2) / otherCanvas.height
  return withBox(
    {
      ...other,
      cornerRadius: other.cornerRadius === null ? null : other.cornerRadius * scale,
      shown: placement.shown,
      locked: placement.locked,
    },
    { width, height, x: across * canvas.width - width / 2, y: down * canvas.height - height / 2 },
  )
}
