import type { CanvasName, Placement, Show, Size } from '../show'

/** Keeps a placement's proportions and its place relative to the middle when a canvas changes size. */
export function placementOnNewSize(placement: Placement, before: Size, after: Size): Placement {
  const scale = Math.min(after.width / before.width, after.height / before.height)
  const middleAcross = placement.x + placement.width / 2 - before.width / 2
  const middleDown = placement.y + placement.height / 2 - before.height / 2
  const width = Math.max(1, placement.width * scale)
  const height = Math.max(1, placement.height * scale)
  return {
    ...placement,
    width,
    height,
    cornerRadius: placement.cornerRadius === null ? null : placement.cornerRadius * scale,
    x: after.width / 2 + middleAcross * scale - width / 2,
    y: after.height / 2 + middleDown * scale - height / 2,
  }
}

export const arrangementsOnResize = ['scale along', 'keep pixels'] as const
export type ArrangementOnResize = (typeof arrangementsOnResize)[number]

/** Keeps a placement's size and its distance from the middle of the canvas. */
function placementWithSamePixels(placement: Placement, before: Size, after: Size): Placement {
  return {
    ...placement,
    x: placement.x + (after.width - before.width) / 2,
    y: placement.y + (after.height - before.height) / 2,
  }
}

/**
 * Changes the size of one canvas, in pixels. Every scene's arrangement on it is scaled along, or
 * keeps its pixels about the middle.
 */
export function withCanvasSize(
  show: Show,
  canvas: CanvasName,
  size: Size,
  how: ArrangementOnResize = 'scale along',
): Show {
  const before = show.canvasPair[canvas]
  const onNewSize = how === 'scale along' ? placementOnNewSize : placementWithSamePixels
  return {
    ...show,
    canvasPair: { ...show.canvasPair, [canvas]: { width: size.width, height: size.height } },
    scenes: show.scenes.map((scene) => ({
      ...scene,
      layers: scene.layers.map((layer) => ({
        ...layer,
        [canvas]: onNewSize(layer[canvas], before, size),
      })),
    })),
  }
}
