<script setup lang="ts">
import { canvasToSource, displayScale } from '@green-mantle/core/canvas'
import { type CanvasName, type Layer, nativeSizeOf } from '@green-mantle/core/show'
import { sizeInWords } from '@green-mantle/core/words'
import { useDevicePixelRatio, useElementSize, usePreferredReducedMotion } from '@vueuse/core'
import type Konva from 'konva'
import { computed, nextTick, useTemplateRef, watch } from 'vue'
import {
  Layer as VLayer,
  Rect as VRect,
  Stage as VStage,
  Transformer as VTransformer,
} from 'vue-konva'
import { colourAt } from '~/pictures/colourAt'
import { redrawOnMotion } from '~/pictures/playback'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useWorkbenchStore } from '~/stores/workbench'
import { useLayers } from '../editing/layers'
import { usePlacing } from '../editing/placing'
import { useSources } from '../editing/sources'
import { useHandwork } from './handwork'
import PlacementShape from './PlacementShape.vue'
import StageOverlay from './StageOverlay.vue'

const props = defineProps<{ canvas: CanvasName }>()

const store = useShowStore()
const selection = useSelectionStore()
const workbench = useWorkbenchStore()
const placing = usePlacing()
const layers = useLayers()
const sources = useSources()

const frame = useTemplateRef<HTMLElement>('frame')
const surface = useTemplateRef<HTMLElement>('surface')
const transformer = useTemplateRef<{ getNode(): Konva.Transformer }>('transformer')
const stage = useTemplateRef<{ getNode(): Konva.Stage }>('stage')
const pictures = useTemplateRef<{ getNode(): Konva.Layer }>('pictures')
const space = useElementSize(frame)
const { pixelRatio } = useDevicePixelRatio()

const size = computed(() => store.show.canvasPair[props.canvas])
const scale = computed(() =>
  displayScale(size.value, { width: space.width.value, height: space.height.value }),
)
const stageConfig = computed(() => ({
  width: Math.floor(size.value.width * scale.value),
  height: Math.floor(size.value.height * scale.value),
  scaleX: scale.value,
  scaleY: scale.value,
}))
/** Another scene's vertical is looked at here and altered there. */
const isShared = computed(() => props.canvas === 'vertical' && selection.sharesVertical)

/** Back to front, as it is drawn. */
const placed = computed(() =>
  selection
    .layersOn(props.canvas)
    .flatMap((layer) => {
      const source = selection.sourcesById.get(layer.sourceId)
      const placement = layer[props.canvas]
      return source && placement.shown ? [{ layer, source, placement }] : []
    })
    .toReversed(),
)

function pointOf(event: MouseEvent): { x: number; y: number } {
  const box = surface.value?.getBoundingClientRect()
  return {
    x: (event.clientX - (box?.left ?? 0)) / scale.value,
    y: (event.clientY - (box?.top ?? 0)) / scale.value,
  }
}
const hand = useHandwork(props.canvas, () => scale.value, pointOf)

redrawOnMotion(() => pictures.value?.getNode().batchDraw())

const prefersStill = usePreferredReducedMotion()
const fading = useTemplateRef<HTMLCanvasElement>('fading')

/** Lets the scene that was on air fade over the one that follows, as long as the show's transition takes. */
function fadeFromBefore(): void {
  const { kind, milliseconds } = store.show.transition
  const before = pictures.value?.getNode().getNativeCanvasElement()
  const surfaceOver = fading.value
  if (!before || !surfaceOver || kind !== 'fade' || prefersStill.value === 'reduce') return
  surfaceOver.width = before.width
  surfaceOver.height = before.height
  surfaceOver.getContext('2d')?.drawImage(before, 0, 0)
  surfaceOver.animate([{ opacity: 1 }, { opacity: 0 }], { duration: milliseconds })
}
// Before the canvas is drawn anew.
watch(
  () => (props.canvas === 'vertical' ? selection.verticalScene : selection.scene).id,
  fadeFromBefore,
  { flush: 'pre' },
)

const colour = computed(() => (props.canvas === 'landscape' ? '#1f6f86' : '#8a3f79'))
const transformerConfig = computed(() => ({
  rotateEnabled: true,
  rotateAnchorOffset: 22,
  rotationSnaps: [0, 90, 180, 270],
  keepRatio: true,
  shiftBehavior: 'inverted',
  ignoreStroke: true,
  flipEnabled: false,
  anchorSize: 9,
  anchorFill: '#fffdf6',
  anchorStroke: colour.value,
  anchorStrokeWidth: 2,
  anchorCornerRadius: 2,
  borderStroke: colour.value,
  borderStrokeWidth: 2,
  anchorDragBoundFunc: (
    _before: Konva.Vector2d,
    after: Konva.Vector2d,
    event: MouseEvent,
  ): Konva.Vector2d => {
    const name = transformer.value?.getNode().getActiveAnchor() ?? ''
    const point = { x: after.x / scale.value, y: after.y / scale.value }
    const held = hand.holdHandle(name, point, event)
    return { x: held.x * scale.value, y: held.y * scale.value }
  },
}))

const hasHandles = (layer: Layer): boolean =>
  selection.isChosen(layer.id) && layer[props.canvas].shown && !layer[props.canvas].locked

/** Hangs the handles on the chosen placements; a locked or hidden one has none. */
async function attachHandles(): Promise<void> {
  await nextTick()
  const node = transformer.value?.getNode()
  const owners = isShared.value ? [] : selection.scene.layers.filter(hasHandles)
  node?.nodes(owners.flatMap(({ id }) => node.getStage()?.findOne(`#${id}`) ?? []))
}
watch(
  () => [
    selection.scene.layers
      .filter(hasHandles)
      .map(({ id }) => id)
      .join(),
    selection.scene.id,
    isShared.value,
    stage.value,
  ],
  attachHandles,
  { immediate: true, flush: 'post' },
)

function press(layer: Layer, event: MouseEvent): void {
  selection.canvas = props.canvas
  if (isShared.value) return
  if (event.shiftKey) selection.toggleChosen(layer.id)
  else if (!selection.isChosen(layer.id)) selection.layerId = layer.id
}

/** A press on one of several may begin a drag of all; only letting go without moving chooses it alone. */
function click(layer: Layer, event: MouseEvent): void {
  if (isShared.value || event.shiftKey) return
  if (selection.layerIds.length > 1) selection.layerId = layer.id
}

function pressBackground(event: MouseEvent): void {
  selection.canvas = props.canvas
  if (!isShared.value) hand.startRectangle(event)
}

/** Before Konva sees a press: an edge taken with Alt is trimmed, and a colour is picked where that was asked for. */
function pressFirst(event: MouseEvent): void {
  if (event.button !== 0) return
  const isTaken = event.type === 'mousedown' && (pickColour(event) || hand.startTrimming(event))
  if (!isTaken) return
  event.stopPropagation()
  event.preventDefault()
  surface.value?.focus({ preventScroll: true })
}

function pickColour(event: MouseEvent): boolean {
  const chosen = selection.selected
  if (!chosen || workbench.picksKeyFor !== chosen.source.id) return false
  workbench.picksKeyFor = undefined
  const native = nativeSizeOf(chosen.source)
  const pixel = canvasToSource(chosen.layer[props.canvas], native, pointOf(event))
  const picked = colourAt(chosen.source, pixel)
  if (picked)
    sources.edit(chosen.source.id, 'Pick the key colour of', (source) => {
      if (source.chromaKey) source.chromaKey.colour = picked
    })
  return true
}

const description = computed(() => {
  const name = props.canvas === 'landscape' ? 'Landscape' : 'Vertical'
  const names = selection.chosen.map(({ source }) => source.name)
  const chosen =
    names.length > 0
      ? `${names.join(', ')} ${names.length > 1 ? 'are' : 'is'} chosen. Arrow keys move, with Shift by 10 pixels.`
      : 'Nothing is chosen. Page Down chooses the next source.'
  return `${name} canvas, ${sizeInWords(size.value)}. ${chosen}`
})

const arrows: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

function addNeighbour(by: 1 | -1): void {
  const before = selection.layerIds
  layers.chooseNeighbour(by)
  const added = selection.layerId
  selection.layerIds = [...before.filter((id) => id !== added), ...(added ? [added] : [])]
}

/** To the chosen source's numbers on this canvas; they stand in two columns. */
function focusNumbers(): void {
  const fields = document.querySelectorAll<HTMLInputElement>('#place-numbers input')
  fields[props.canvas === 'landscape' ? 0 : 1]?.focus()
}

function onKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const arrow = arrows[event.key]
  const neighbour = { PageDown: 1, PageUp: -1 }[event.key] as 1 | -1 | undefined
  if (arrow) {
    const step = event.shiftKey ? 10 : 1
    placing.nudge(arrow[0] * step, arrow[1] * step)
  } else if (neighbour) {
    if (event.shiftKey) addNeighbour(neighbour)
    else layers.chooseNeighbour(neighbour)
  } else if (event.key === 'Delete') layers.removeChosen()
  else if (event.key === 'Enter') focusNumbers()
  else if (event.key === 'Escape') {
    if (workbench.picksKeyFor) workbench.picksKeyFor = undefined
    else selection.layerId = undefined
  } else return
  event.preventDefault()
}

defineExpose({ focus: () => surface.value?.focus() })
</script>

<template>
  <div ref="frame" class="relative min-h-0 min-w-0 overflow-hidden">
    <div
      ref="surface"
      class="outline-rule absolute top-0 left-0 shadow-md outline-1"
      :class="workbench.picksKeyFor ? 'cursor-crosshair' : ''"
      :style="{ width: `${stageConfig.width}px`, height: `${stageConfig.height}px` }"
      role="application"
      tabindex="0"
      :aria-label="description"
      :data-canvas="canvas"
      :data-scale="scale"
      @keydown="onKey"
      @focus="selection.canvas = canvas"
      @pointerdown.capture="pressFirst"
      @mousedown.capture="pressFirst"
      @mousedown="surface?.focus({ preventScroll: true })"
    >
      <VStage v-if="stageConfig.width > 0" ref="stage" :config="stageConfig">
        <VLayer ref="pictures">
          <VRect
            :config="{ ...size, fill: '#0b120e' }"
            @mousedown="pressBackground($event.evt)"
            @touchstart="pressBackground($event.evt)"
          />
          <PlacementShape
            v-for="item in placed"
            :key="item.layer.id"
            :layer-id="item.layer.id"
            :placement="item.placement"
            :source="item.source"
            :dressing="store.show.dressing"
            :canvas="size"
            :scale="scale * pixelRatio"
            :can-be-moved="!item.placement.locked && !isShared"
            @press="press(item.layer, $event)"
            @click="click(item.layer, $event)"
            @drag-start="hand.startMoving()"
            @move="(node, event) => hand.move(item.layer.id, node, event)"
            @reshape="hand.reshape(item.layer, $event)"
            @release="hand.release()"
          />
        </VLayer>
        <VLayer>
          <VTransformer ref="transformer" :config="transformerConfig" />
        </VLayer>
      </VStage>
      <canvas
        ref="fading"
        class="pointer-events-none absolute inset-0 size-full opacity-0"
        aria-hidden="true"
      />
      <StageOverlay
        :canvas="canvas"
        :scale="scale"
        :guides="hand.guides.value"
        :distances="hand.distances.value"
        :rectangle="hand.rectangle.value"
      />
      <p
        v-if="placed.length === 0"
        class="pointer-events-none absolute inset-0 flex items-center justify-center p-4 text-center"
        style="color: #ecefe2"
      >
        Nothing is shown here yet. Add a source, or show one in the list below.
      </p>
    </div>
  </div>
</template>
