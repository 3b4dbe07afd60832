import {
  type CanvasName,
  canvasNames,
  type Destination,
  hasOwnPixels,
  type Layer,
  layersOnAir,
  nativeSizeOf,
  type Placement,
  type Scene,
  type Show,
  type Size,
  type Source,
  type ViewingMode,
} from '../show'
import { areaOf, intersection, overlapsAny, type Polygon, polygonOfBox, totalArea } from './convex'
import {
  coveredLimit,
  hidesWhatIsBehind,
  isBackdrop,
  shareUnder,
  visibleParts,
  zoneBox,
} from './covered'
import { isFocusWhole } from './focus'
import { type Box, boundsOf, cornersOf, isOffCanvas } from './geometry'
import { movedClear } from './moveClear'
import { isReadable, readableShare, wordsSize } from './readable'
import { sharpness } from './sharpness'
import { zonesInUse } from './viewing'

/** How much of a placement one destination's viewing app covers in one mode. */
export interface Covering {
  destination: Pick<Destination, 'id' | 'name'>
  mode: ViewingMode
  /** The names of the zones that do it. */
  zones: string[]
  share: number
}

type Shown = Pick<Show, 'canvasPair' | 'sources' | 'scenes' | 'destinations'>

const byId = (sources: readonly Source[]): Map<string, Source> =>
  new Map(sources.map((source) => [source.id, source]))

/** What is the same for all layers of a scene on one canvas. */
interface SceneOnCanvas {
  canvas: CanvasName
  size: Size
  layers: readonly Layer[]
  sources: ReadonlyMap<string, Source>
  /** Cover zones of the destinations in use. */
  zones: readonly (ReturnType<typeof zonesInUse>[number] & { box: Box })[]
}

function sceneOnCanvas(
  show: Shown,
  scene: Scene,
  canvas: CanvasName,
  sources: ReadonlyMap<string, Source>,
): SceneOnCanvas {
  const size = show.canvasPair[canvas]
  return {
    canvas,
    size,
    layers: layersOnAir(show, scene, canvas),
    sources,
    zones: zonesInUse(show.destinations, canvas).map((each) => ({
      ...each,
      box: zoneBox(each.zone, size),
    })),
  }
}

/** Who covers a layer of a scene on a canvas and how much of it, the worst first; whoever leaves it clear is left out. */
export const coveringsOf = (
  show: Shown,
  scene: Scene,
  layerId: string,
  canvas: CanvasName,
): Covering[] => {
  const onCanvas = sceneOnCanvas(show, scene, canvas, byId(show.sources))
  return coveringsOn(onCanvas, seenOf(onCanvas, layerId))
}

/** What a viewer of the bare canvas sees of a layer. */
function seenOf({ canvas, size, layers, sources }: SceneOnCanvas, layerId: string): Polygon[] {
  const index = layers.findIndex(({ id }) => id === layerId)
  return visibleParts(layers, index, canvas, size, sources)
}

function coveringsOn({ zones }: SceneOnCanvas, visible: readonly Polygon[]): Covering[] {
  if (visible.length === 0) return []
  const groups = new Map<string, Covering & { boxes: Box[] }>()
  for (const { destination, zone, box } of zones) {
    const key = `${destination.id} ${zone.mode}`
    const group = groups.get(key) ?? {
      destination: { id: destination.id, name: destination.name },
      mode: zone.mode,
      zones: [],
      share: 0,
      boxes: [],
    }
    groups.set(key, group)
    group.boxes.push(box)
    if (overlapsAny(visible, polygonOfBox(box))) group.zones.push(zone.name)
  }
  return [...groups.values()]
    .filter((group) => group.zones.length > 0)
    .map(({ boxes, ...covering }) => ({
      ...covering,
      share: shareUnder(visible, boxes) ?? 0,
    }))
    .sort((a, b) => b.share - a.share)
}

/**
 * The nearest position of a layer on a canvas where no cover zone of a destination in use lies over
 * it, nothing hides it and it covers nothing that it does not lie on already; null where there is
 * none.
 */
export function clearPlacement(
  show: Shown,
  scene: Scene,
  layerId: string,
  canvas: CanvasName,
): Placement | null {
  const size = show.canvasPair[canvas]
  const layers = layersOnAir(show, scene, canvas)
  const index = layers.findIndex(({ id }) => id === layerId)
  const layer = layers[index]
  if (!layer) return null
  const own = cornersOf(layer[canvas])
  const inTheWay = layers.filter((other, place) => {
    const placement = other[canvas]
    if (other === layer || !placement.shown || isBackdrop(placement, size)) return false
    return place < index || intersection(own, cornersOf(placement)).length === 0
  })
  const zones = zonesInUse(show.destinations, canvas).map(({ zone }) => zoneBox(zone, size))
  const boxes = inTheWay.map((other) => boundsOf(other[canvas]))
  return movedClear(layer[canvas], size, [...zones, ...boxes])
}

/** What may be the matter, the gravest first. */
const sceneCheckKinds = [
  'off the edge',
  'hidden',
  'covered',
  'focus cut',
  'words too small',
  'blown up',
  'shown nowhere',
  'slower than the show',
] as const
export type SceneCheckKind = (typeof sceneCheckKinds)[number]

/** One thing about a scene that its viewers would notice. */
export interface SceneCheck {
  kind: SceneCheckKind
  layerId: string
  /** null where it is so on both. */
  canvas: CanvasName | null
  sourceName: string
  words: string
  /** What can be done about it by one command. */
  remedy: 'move it clear' | 'bring it back' | 'put it in front' | null
}

/** Of what is seen to less than this share of its placement, viewers see nothing. */
const hiddenBelow = 0.05
/** What lies behind everything by its nature; nobody misses the part that is not seen. */
const backdropKinds: readonly Source['kind'][] = ['picture', 'colour']

/** The layers that hide all or nearly all of another on a canvas, front to back; none where enough of it is seen. */
export function hiddenBy(
  layers: readonly Layer[],
  layerId: string,
  canvas: CanvasName,
  size: Size,
  sources: ReadonlyMap<string, Source>,
): Layer[] {
  const onCanvas = { canvas, size, layers, sources }
  const index = layers.findIndex(({ id }) => id === layerId)
  return hidersOf(onCanvas, index, visibleParts(layers, index, canvas, size, sources))
}

function hidersOf(
  { canvas, layers, sources }: Omit<SceneOnCanvas, 'zones'>,
  index: number,
  visible: readonly Polygon[],
): Layer[] {
  const layer = layers[index]
  const source = layer && sources.get(layer.sourceId)
  if (!source || !layer[canvas].shown || backdropKinds.includes(source.kind)) return []
  const own = cornersOf(layer[canvas])
  if (totalArea(visible) >= hiddenBelow * areaOf(own)) return []
  return layers
    .slice(0, index)
    .filter((other) => hidesWhatIsBehind(other, canvas, sources.get(other.sourceId)))
    .filter((other) => intersection(own, cornersOf(other[canvas])).length > 0)
}

/** Anything that would show as 1.00× counts as sharp. */
export const sharpLimit = 0.995

const percent = (share: number): string => `${Math.round(share * 100)} %`

const namesInWords = (names: readonly string[]): string =>
  [...new Set(names)].join(' and ').replaceAll(/ and (?=.* and )/g, ', ')

function checksOnCanvas(onCanvas: SceneOnCanvas, layer: Layer, source: Source): SceneCheck[] {
  const { canvas, size, layers, sources } = onCanvas
  const placement = layer[canvas]
  if (!placement.shown) return []
  const native = nativeSizeOf(source)
  const check = (
    kind: SceneCheckKind,
    words: string,
    remedy: SceneCheck['remedy'] = null,
  ): SceneCheck => ({ kind, layerId: layer.id, canvas, sourceName: source.name, words, remedy })
  if (isOffCanvas(placement, size))
    return [check('off the edge', `stands off the ${canvas} canvas altogether`, 'bring it back')]
  const found: SceneCheck[] = []
  const visible = seenOf(onCanvas, layer.id)
  const hiders = hidersOf(onCanvas, layers.indexOf(layer), visible)
  if (hiders.length > 0) {
    const names = hiders.map(({ sourceId }) => sources.get(sourceId)?.name ?? sourceId)
    found.push(
      check('hidden', `is hidden behind ${namesInWords(names)} on ${canvas}`, 'put it in front'),
    )
  }
  // What fills the canvas cannot be anywhere else.
  const [worst] = isBackdrop(placement, size) ? [] : coveringsOn(onCanvas, visible)
  if (worst && worst.share > coveredLimit)
    found.push(
      check(
        'covered',
        `is ${percent(worst.share)} under the ${namesInWords(worst.zones)} on ${worst.destination.name} (${worst.mode})`,
        'move it clear',
      ),
    )
  const sharp = sharpness(placement, native)
  if (hasOwnPixels(source) && sharp < sharpLimit)
    found.push(check('blown up', `is blown up ${(1 / sharp).toFixed(2)} times on ${canvas}`))
  const words = wordsSize(placement, source)
  if (words !== null && !isReadable(placement, source, size))
    found.push(
      check(
        'words too small',
        `has words of ${Math.round(words)} px on ${canvas}; below ${Math.ceil(readableShare * size.height)} px they can hardly be read on a phone`,
      ),
    )
  if (!isFocusWhole(source.focus, native, placement.trim))
    found.push(check('focus cut', `is trimmed into its focus on ${canvas}`))
  return found
}

/** What the checks of a scene hang on, and what they were for it. */
interface Remembered {
  on: readonly unknown[]
  checks: readonly SceneCheck[]
}

/** Shows are never changed in place, so that what was found of a scene is found again by what it hangs on. */
const remembered = new WeakMap<Scene, Remembered>()

/**
 * Everything that a viewer would notice in one scene: the gravest first, and of each kind what is in front.
 * Asked again about a scene of which nothing has changed, it answers at once.
 */
export function sceneChecks(show: Shown, scene: Scene): readonly SceneCheck[] {
  const { canvasPair, sources, destinations } = show
  const on = [canvasPair, sources, destinations, layersOnAir(show, scene, 'vertical')]
  const before = remembered.get(scene)
  if (before && on.every((each, index) => each === before.on[index])) return before.checks
  const checks = checksOf(show, scene)
  remembered.set(scene, { on, checks })
  return checks
}

function checksOf(show: Shown, scene: Scene): SceneCheck[] {
  const sources = byId(show.sources)
  const { framesPerSecond } = show.canvasPair
  const onCanvases = canvasNames
    .filter((canvas) => canvas === 'landscape' || scene.verticalOf === null)
    .map((canvas) => sceneOnCanvas(show, scene, canvas, sources))
  const found = scene.layers.flatMap((layer): SceneCheck[] => {
    const source = sources.get(layer.sourceId)
    if (!source) return []
    const onBoth = (kind: SceneCheckKind, words: string): SceneCheck => ({
      kind,
      layerId: layer.id,
      canvas: null,
      sourceName: source.name,
      words,
      remedy: null,
    })
    if (!onCanvases.some(({ canvas }) => layer[canvas].shown))
      return [onBoth('shown nowhere', 'is shown on neither canvas in this scene')]
    const native = source.nativeFramesPerSecond
    const slow =
      native !== null && native < framesPerSecond
        ? [
            onBoth(
              'slower than the show',
              `gives ${native} fps; the show runs at ${framesPerSecond}`,
            ),
          ]
        : []
    return [...onCanvases.flatMap((onCanvas) => checksOnCanvas(onCanvas, layer, source)), ...slow]
  })
  const gravity = ({ kind }: SceneCheck): number => sceneCheckKinds.indexOf(kind)
  return found.sort((a, b) => gravity(a) - gravity(b))
}
