import {
  backdropShare,
  type Box,
  boundsOf,
  filledShare,
  isBackdrop,
  isFocusWhole,
  readableShare,
  totalArea,
  usedPart,
  visibleParts,
  wordsSize,
} from '../canvas'
import {
  type CanvasName,
  type Layer,
  nativeSizeOf,
  type Placement,
  type Scene,
  type Show,
  type Size,
  type Source,
} from '../show'
import { cropTowards, trimTo } from './crops'

type ItemRole = 'camera' | 'screen' | 'words'

/** One source that has to be placed, with what may be done to it. */
export interface Item {
  layer: Layer
  source: Source
  native: Size
  /** How it stands on the canvas that is matched to. */
  from: Placement
  role: ItemRole
  /** It fills the canvas that is matched to. */
  wasBackdrop: boolean
  /** The part of the source that is shown there, in its own pixels. */
  region: Box
  /** The part of the source that has to stay whole. */
  whole: Box
  /** The part of the source that may be shown when it has to take another shape. */
  reach: Box
  /** How much of the other canvas a viewer sees of it, 0 to 1. */
  seenShare: number
}

/** Of what takes less than this share of the canvas, viewers saw nothing. */
export const wasSeen = 0.01

const wordsKinds: readonly Source['kind'][] = ['text', 'alerts', 'goal bar']
const cameraKinds: readonly Source['kind'][] = ['camera', 'guest', 'media file']
/** These may be trimmed anywhere as long as no focus is set on them; all others only about their focus. */
const freelyTrimmed: readonly Source['kind'][] = ['picture', 'colour']

function roleOf(kind: Source['kind']): ItemRole {
  if (wordsKinds.includes(kind)) return 'words'
  return cameraKinds.includes(kind) ? 'camera' : 'screen'
}

function wholePart(source: Source, region: Box): Box {
  if (source.focus) return source.focus
  const middle = { x: region.x + region.width / 2, y: region.y + region.height / 2 }
  return freelyTrimmed.includes(source.kind) ? { ...middle, width: 0, height: 0 } : region
}

/** What is shown on a canvas of a scene, front to back, ready to be placed on the other. */
export function itemsOn(
  show: Pick<Show, 'canvasPair' | 'sources'>,
  scene: Scene,
  canvas: CanvasName,
): Item[] {
  const size = show.canvasPair[canvas]
  const sources = new Map(show.sources.map((source) => [source.id, source]))
  return scene.layers.flatMap((layer, index): Item[] => {
    const source = sources.get(layer.sourceId)
    const from = layer[canvas]
    if (!source || !from.shown) return []
    const native = nativeSizeOf(source)
    // A focus that is cut already is given back as a whole.
    const trim = isFocusWhole(source.focus, native, from.trim)
      ? from.trim
      : { left: 0, top: 0, right: 0, bottom: 0 }
    const region = usedPart(native, trim)
    const all = { x: 0, y: 0, ...native }
    const visible = totalArea(visibleParts(scene.layers, index, canvas, size, sources))
    return [
      {
        layer,
        source,
        native,
        from,
        role: roleOf(source.kind),
        wasBackdrop: isBackdrop(from, size),
        region,
        whole: wholePart(source, region),
        reach: source.focus || freelyTrimmed.includes(source.kind) ? all : region,
        seenShare: visible / (size.width * size.height),
      },
    ]
  })
}

const isTurned = ({ from }: Item): boolean => from.turnDegrees % 360 !== 0

/** The placement of an item with a part of its source in a box; a turned one is fitted by its bounds. */
export function placementIn(item: Item, part: Box, box: Box, scaleOfCorners: number): Placement {
  const { from, native } = item
  const base: Placement = {
    ...from,
    cornerRadius: from.cornerRadius === null ? null : from.cornerRadius * scaleOfCorners,
    trim: item.role === 'words' ? from.trim : trimTo(native, part),
  }
  if (!isTurned(item)) return rounded({ ...base, ...box })
  const bounds = boundsOf({ x: 0, y: 0, ...sizeOf(part), turnDegrees: from.turnDegrees })
  const scale = Math.min(box.width / bounds.width, box.height / bounds.height)
  const [width, height] = [part.width * scale, part.height * scale]
  return rounded({
    ...base,
    width,
    height,
    x: box.x + box.width / 2 - width / 2,
    y: box.y + box.height / 2 - height / 2,
  })
}

const sizeOf = ({ width, height }: Size): Size => ({ width, height })

/** Whole pixels, inwards, so that nothing leaves its box; a turned one has no pixels to keep to. */
function rounded(placement: Placement): Placement {
  if (placement.turnDegrees % 360 !== 0) return placement
  // Adding 0 makes a plain zero of a negative one.
  const x = Math.ceil(placement.x - 1e-6) + 0
  const y = Math.ceil(placement.y - 1e-6) + 0
  return {
    ...placement,
    x,
    y,
    width: Math.max(1, Math.floor(placement.x + placement.width + 1e-6) - x),
    height: Math.max(1, Math.floor(placement.y + placement.height + 1e-6) - y),
  }
}

/** Width ÷ height of an item as it will stand when this part of its source is shown. */
export function aspectOf(item: Item, part: Box): number {
  const bounds = boundsOf({ x: 0, y: 0, ...sizeOf(part), turnDegrees: item.from.turnDegrees })
  return bounds.width / bounds.height
}

/** The parts of its source that an item may show: all that is shown on the other canvas, and closer about its focus. */
export function partsOf(item: Item): Box[] {
  const { region, whole, source } = item
  if (!source.focus || isTurned(item)) return [region]
  const closer = [1, 0.8].map((aspect) => cropTowards(region, aspect, whole))
  return [
    region,
    ...closer.filter(({ width, height }) => width < region.width || height < region.height),
  ]
}

/** How an item fills a canvas, trimmed as far as its focus allows; null where it cannot. */
export function fillingCanvas(item: Item, canvas: Size): Placement | null {
  if (isTurned(item) || item.role === 'words') return null
  const part = cropTowards(item.reach, canvas.width / canvas.height, item.whole)
  const scale = Math.min(canvas.width / part.width, canvas.height / part.height)
  const [width, height] = [part.width * scale, part.height * scale]
  const box = { x: (canvas.width - width) / 2, y: (canvas.height - height) / 2, width, height }
  const placement = placementIn(item, part, box, 1)
  return filledShare(placement, canvas) >= backdropShare ? placement : null
}

/** Words are not squeezed into a column narrower than this share of their line. */
const narrowestLineShare = 0.45

/** The size of the box that gives an item's words a size in canvas pixels; null where it has no words or they would be squeezed. */
function boxForWords(item: Item, wordsPixels: number, maxWidth: number): Size | null {
  const { native, source } = item
  const own = wordsSize(native, source)
  if (own === null || own <= 0) return null
  const scale = wordsPixels / own
  const [width, height] = [native.width * scale, native.height * scale]
  if (width <= maxWidth) return { width, height }
  if (maxWidth < narrowestLineShare * width) return null
  const { appearance } = source
  // Words that wrap keep their area; a little more, since lines break at whole words.
  if (appearance.type === 'text' && appearance.wrap)
    return { width: maxWidth, height: (1.1 * width * height) / maxWidth }
  const narrower = maxWidth / width
  return { width: maxWidth, height: height * narrower }
}

/** The size that an item's words get: as large as on the other canvas, and at least readable; null where there is no room for that. */
export function wordsBox(item: Item, before: Size, canvas: Size, maxWidth: number): Size | null {
  const shortSides = Math.min(canvas.width, canvas.height) / Math.min(before.width, before.height)
  const present = (wordsSize(item.from, item.source) ?? 0) * shortSides
  return boxForWords(item, Math.max(present, readableShare * canvas.height * 1.03), maxWidth)
}
