import type { CanvasName, CoverZone, Layer, Size, Source } from '../show'
import { differenceOfAll, intersection, type Polygon, polygonOfBox, totalArea } from './convex'
import { type Box, cornersOf } from './geometry'

type LayerSource = Pick<Source, 'kind' | 'chromaKey'>

/** More than this share of a placement under a cover zone is worth a warning. */
export const coveredLimit = 0.05

/** A cover zone in canvas pixels. */
export const zoneBox = (zone: Pick<CoverZone, keyof Box>, canvas: Size): Box => ({
  x: zone.x * canvas.width,
  y: zone.y * canvas.height,
  width: zone.width * canvas.width,
  height: zone.height * canvas.height,
})

const canvasBox = ({ width, height }: Size): Box => ({ x: 0, y: 0, width, height })

/** Words come and go or have gaps, and what is keyed or translucent lets the picture through: none of them hides what is behind. */
const seeThroughKinds: readonly Source['kind'][] = ['text', 'alerts']

export function hidesWhatIsBehind(
  layer: Layer,
  canvas: CanvasName,
  source: LayerSource | undefined,
): boolean {
  const { shown, opacityPercent } = layer[canvas]
  if (!shown || opacityPercent < 100 || !source) return false
  return !seeThroughKinds.includes(source.kind) && !source.chromaKey?.on
}

/** The parts of a layer's placement that a viewer of the bare canvas sees, as convex pieces. */
export function visibleParts(
  layers: readonly Layer[],
  index: number,
  canvas: CanvasName,
  size: Size,
  sources: ReadonlyMap<string, LayerSource>,
): Polygon[] {
  const layer = layers[index]
  if (!layer?.[canvas].shown) return []
  const onCanvas = intersection(cornersOf(layer[canvas]), polygonOfBox(canvasBox(size)))
  if (onCanvas.length === 0) return []
  const inFront = layers
    .slice(0, index)
    .filter((other) => hidesWhatIsBehind(other, canvas, sources.get(other.sourceId)))
    .map((other) => cornersOf(other[canvas]))
  return differenceOfAll([onCanvas], inFront)
}

/** The share of what is visible of a layer that lies under cover zones, 0 to 1; null where nothing is. Zones are in canvas pixels. */
export function shareUnder(visible: readonly Polygon[], zones: readonly Box[]): number | null {
  const area = totalArea(visible)
  if (area === 0) return null
  const clear = totalArea(differenceOfAll(visible, zones.map(polygonOfBox)))
  return Math.min(1, Math.max(0, 1 - clear / area))
}

/** The share of a canvas that a placement fills, 0 to 1. */
export function filledShare(placement: Layer[CanvasName], size: Size): number {
  const onCanvas = intersection(cornersOf(placement), polygonOfBox(canvasBox(size)))
  return totalArea([onCanvas]) / (size.width * size.height)
}

/** From this share of the canvas on, a placement is a backdrop: it cannot be anywhere else. */
export const backdropShare = 0.9
export const isBackdrop = (placement: Layer[CanvasName], size: Size): boolean =>
  placement.shown && filledShare(placement, size) >= backdropShare
