import {
  boundsOf,
  boundsOfAll,
  boxBetween,
  boxFromNode,
  type Distance,
  distancesAround,
  edgeNear,
  handleNamed,
  intersection,
  cornersOf,
  moved,
  polygonOfBox,
  snappedBox,
  snappedHandle,
  type SnapLine,
  snapLines,
  trimmedTo,
  withBox,
  withTrim,
} from '@green-mantle/core/canvas'
import {
  type CanvasName,
  hasOwnPixels,
  type Layer,
  nativeSizeOf,
  type Placement,
} from '@green-mantle/core/show'
import { useEventListener } from '@vueuse/core'
import type Konva from 'konva'
import { computed, ref, shallowRef } from 'vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useWorkbenchStore } from '~/stores/workbench'
import { usePlacing } from '../editing/placing'

interface Point {
  x: number
  y: number
}

/** How near a line has to be to hold, and an edge to be taken for trimming, in screen pixels. */
const holdsWithin = 7
const trimsWithin = 12

/** What a hand does on one canvas: moving, resizing, trimming and choosing with a rectangle. Points are in canvas pixels. */
export function usePointing(
  canvas: CanvasName,
  scale: () => number,
  pointOf: (event: MouseEvent) => Point,
) {
  const store = useShowStore()
  const selection = useSelectionStore()
  const workbench = useWorkbenchStore()
  const placing = usePlacing()

  const guides = shallowRef<SnapLine[]>([])
  const distances = shallowRef<Distance[]>([])
  const size = computed(() => store.show.canvasPair[canvas])

  function endGuides(): void {
    guides.value = []
    distances.value = []
  }

  const others = (except: readonly string[]): Layer[] =>
    selection.scene.layers.filter((layer) => layer[canvas].shown && !except.includes(layer.id))

  function linesBeside(except: readonly string[]): SnapLine[] {
    return snapLines(
      size.value,
      others(except).map((layer) => ({
        ...boundsOf(layer[canvas]),
        name: selection.sourcesById.get(layer.sourceId)?.name ?? '',
      })),
    )
  }

  /* Moving */

  let starts = new Map<string, Placement>()
  let lines: SnapLine[] = []
  let neighbours: ReturnType<typeof boundsOf>[] = []
  /** The latest place of what is moved; the show follows once a frame, however often the mouse reports. */
  let pending: (() => void) | undefined

  function flush(): void {
    pending?.()
    pending = undefined
  }

  function later(edit: () => void): void {
    if (!pending) requestAnimationFrame(flush)
    pending = edit
  }

  function startMoving(): void {
    // Every node that is dragged along reports; the first starts it for all.
    if (starts.size > 0) return
    const free = placing.free(canvas)
    starts = new Map(free.map(({ layer }) => [layer.id, layer[canvas]]))
    const ids = [...starts.keys()]
    lines = linesBeside(ids)
    neighbours = others(ids).map((layer) => boundsOf(layer[canvas]))
  }

  function move(layerId: string, node: Konva.Group, event: MouseEvent): void {
    const start = starts.get(layerId)
    const around = boundsOfAll([...starts.values()])
    if (!start || !around) return
    const raw = {
      x: node.x() - start.x - start.width / 2,
      y: node.y() - start.y - start.height / 2,
    }
    const wanted = { ...around, x: around.x + raw.x, y: around.y + raw.y }
    // Held down, Ctrl moves freely.
    const isFree = !workbench.snaps || event.ctrlKey || event.metaKey
    const held = snappedBox(wanted, isFree ? [] : lines, holdsWithin / scale())
    const by = { x: Math.round(held.x - around.x), y: Math.round(held.y - around.y) }
    node.position({
      x: start.x + start.width / 2 + by.x,
      y: start.y + start.height / 2 + by.y,
    })
    guides.value = held.guides
    distances.value = distancesAround(
      { ...around, x: around.x + by.x, y: around.y + by.y },
      size.value,
      neighbours,
    )
    later(() =>
      placing.place(
        canvas,
        new Map([...starts].map(([id, placement]) => [id, moved(placement, by.x, by.y)])),
        'Move',
        { isDragged: true },
      ),
    )
  }

  function release(): void {
    flush()
    starts = new Map()
    reshaped.clear()
    endGuides()
    store.endMerge()
  }

  /* Resizing and turning */

  const reshaped = new Map<string, Placement>()

  /** Konva scales; we keep the size and let the scale go back to one. */
  function reshape(layer: Layer, node: Konva.Group): void {
    const box = boxFromNode({
      middleX: node.x(),
      middleY: node.y(),
      width: node.width(),
      height: node.height(),
      scaleX: node.scaleX(),
      scaleY: node.scaleY(),
      turnDegrees: node.rotation(),
    })
    node.scale({ x: 1, y: 1 })
    reshaped.set(layer.id, withBox(layer[canvas], box))
    placing.place(canvas, new Map(reshaped), 'Resize', { isDragged: true })
  }

  /** Holds a handle to the nearest line; freely with Ctrl, with several chosen, or askew. */
  function holdHandle(name: string, point: Point, event: MouseEvent): Point {
    const [only] = selection.chosen
    const isUpright = only && only.layer[canvas].turnDegrees % 90 === 0
    const isFree = !workbench.snaps || event.ctrlKey || event.metaKey || event.altKey
    if (!isUpright || isFree || name === 'rotater' || selection.chosen.length > 1) return point
    const held = snappedHandle(
      boundsOf(only.layer[canvas]),
      handleNamed(name),
      point,
      linesBeside([only.layer.id]),
      holdsWithin / scale(),
      !event.shiftKey,
    )
    guides.value = held.guides
    return held
  }

  /* Trimming: Alt and drag an edge */

  /** Starts a trim where the press is on an edge of the chosen source; says whether it did. */
  function startTrimming(event: MouseEvent): boolean {
    const [free] = placing.free(canvas)
    if (!event.altKey || selection.chosen.length !== 1 || !free || !hasOwnPixels(free.source))
      return false
    const { id, [canvas]: start } = free.layer
    const native = nativeSizeOf(free.source)
    const edge = edgeNear(start, native, pointOf(event), trimsWithin / scale())
    if (!edge) return false
    const stopFollowing = useEventListener(window, 'mousemove', (now: MouseEvent) => {
      const next = withTrim(start, native, trimmedTo(start, native, edge, pointOf(now)))
      later(() => placing.place(canvas, new Map([[id, next]]), 'Trim', { isDragged: true }))
    })
    useEventListener(
      window,
      'mouseup',
      () => {
        stopFollowing()
        flush()
        store.endMerge()
      },
      { once: true },
    )
    return true
  }

  /* Choosing with a rectangle */

  const rectangle = ref<{ x: number; y: number; width: number; height: number }>()

  function startRectangle(event: MouseEvent): void {
    const from = pointOf(event)
    const before = event.shiftKey ? [...selection.layerIds] : []
    selection.layerIds = before
    const stopFollowing = useEventListener(window, 'mousemove', (now: MouseEvent) => {
      const box = boxBetween(from, pointOf(now))
      rectangle.value = box
      const touched = others([])
        .filter(
          (layer) =>
            !layer[canvas].locked &&
            intersection(cornersOf(layer[canvas]), polygonOfBox(box)).length > 0,
        )
        .map(({ id }) => id)
      selection.layerIds = [...new Set([...before, ...touched])]
    })
    useEventListener(
      window,
      'mouseup',
      () => {
        stopFollowing()
        rectangle.value = undefined
      },
      { once: true },
    )
  }

  return {
    guides,
    distances,
    rectangle,
    startMoving,
    move,
    release,
    reshape,
    holdHandle,
    startTrimming,
    startRectangle,
  }
}
