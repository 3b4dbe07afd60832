<script setup lang="ts">
import { boxFromNode, displayScale } from '@green-mantle/core/canvas'
import type { CanvasName } from '@green-mantle/core/show'
import { sizeInWords } from '@green-mantle/core/words'
import { useDevicePixelRatio, useElementSize } from '@vueuse/core'
import type Konva from 'konva'
import { computed, nextTick, useTemplateRef, watch } from 'vue'
import {
  Layer as VLayer,
  Rect as VRect,
  Stage as VStage,
  Transformer as VTransformer,
} from 'vue-konva'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { usePlacing } from './placing'
import PlacementShape from './PlacementShape.vue'

const props = defineProps<{ canvas: CanvasName }>()

const store = useShowStore()
const selection = useSelectionStore()
const placing = usePlacing()

const frame = useTemplateRef<HTMLElement>('frame')
const surface = useTemplateRef<HTMLElement>('surface')
const transformer = useTemplateRef<{ getNode(): Konva.Transformer }>('transformer')
const stage = useTemplateRef<{ getNode(): Konva.Stage }>('stage')
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

/** Back to front, as it is drawn. */
const placed = computed(() =>
  selection.scene.layers
    .flatMap((layer) => {
      const source = selection.sourcesById.get(layer.sourceId)
      const placement = layer[props.canvas]
      return source && placement.shown ? [{ layer, source, placement }] : []
    })
    .toReversed(),
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
}))

/** Hangs the handles on the chosen placement; a locked or hidden one has none. */
async function attachHandles(): Promise<void> {
  await nextTick()
  const node = transformer.value?.getNode()
  const layer = selection.selected?.layer
  const placement = layer?.[props.canvas]
  const target =
    placement?.shown && !placement.locked ? node?.getStage()?.findOne(`#${layer?.id}`) : undefined
  node?.nodes(target ? [target] : [])
}
watch(
  () => {
    const layer = selection.selected?.layer
    const placement = layer?.[props.canvas]
    return [layer?.id, placement?.shown, placement?.locked, selection.scene.id, stage.value]
  },
  attachHandles,
  { immediate: true, flush: 'post' },
)

function press(layerId: string): void {
  selection.layerId = layerId
  selection.canvas = props.canvas
}

function pressBackground(): void {
  selection.layerId = undefined
  selection.canvas = props.canvas
}

/** The latest place of what is being dragged; the show follows once a frame, however often the mouse reports. */
let pendingMove: (() => void) | undefined

function move(layerId: string, node: Konva.Group): void {
  if (!pendingMove) requestAnimationFrame(flushMove)
  pendingMove = () =>
    placing.setBox(layerId, props.canvas, boxFromNode(nodeState(node)), 'Move', { isDragged: true })
}

function flushMove(): void {
  pendingMove?.()
  pendingMove = undefined
}

function release(): void {
  flushMove()
  store.endMerge()
}

/** Konva scales; we keep the size and let the scale go back to one. */
function reshape(layerId: string, node: Konva.Group): void {
  const box = boxFromNode(nodeState(node))
  node.scale({ x: 1, y: 1 })
  placing.setBox(layerId, props.canvas, box, 'Resize', { isDragged: true })
}

function nodeState(node: Konva.Group) {
  return {
    middleX: node.x(),
    middleY: node.y(),
    width: node.width(),
    height: node.height(),
    scaleX: node.scaleX(),
    scaleY: node.scaleY(),
    turnDegrees: node.rotation(),
  }
}

const description = computed(() => {
  const name = props.canvas === 'landscape' ? 'Landscape' : 'Vertical'
  const chosen = selection.selected
    ? `${selection.selected.source.name} is chosen. Arrow keys move it, with Shift by 10 pixels.`
    : 'Nothing is chosen. Page Down chooses the next source.'
  return `${name} canvas, ${sizeInWords(size.value)}. ${chosen}`
})

const arrows: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

function onKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const arrow = arrows[event.key]
  if (arrow) {
    const step = event.shiftKey ? 10 : 1
    placing.nudge(arrow[0] * step, arrow[1] * step)
  } else if (event.key === 'PageDown') placing.chooseNeighbour(1)
  else if (event.key === 'PageUp') placing.chooseNeighbour(-1)
  else if (event.key === 'Delete') placing.removeChosen()
  else if (event.key === 'Escape') selection.layerId = undefined
  else return
  event.preventDefault()
}

defineExpose({ focus: () => surface.value?.focus() })
</script>

<template>
  <div ref="frame" class="relative min-h-0 min-w-0 overflow-hidden">
    <div
      ref="surface"
      class="outline-rule absolute top-0 left-0 shadow-md outline-1"
      :style="{ width: `${stageConfig.width}px`, height: `${stageConfig.height}px` }"
      role="application"
      tabindex="0"
      :aria-label="description"
      :data-canvas="canvas"
      :data-scale="scale"
      @keydown="onKey"
      @focus="selection.canvas = canvas"
      @mousedown="surface?.focus({ preventScroll: true })"
    >
      <VStage v-if="stageConfig.width > 0" ref="stage" :config="stageConfig">
        <VLayer>
          <VRect
            :config="{ ...size, fill: '#0b120e' }"
            @mousedown="pressBackground"
            @touchstart="pressBackground"
          />
          <PlacementShape
            v-for="item in placed"
            :key="item.layer.id"
            :layer-id="item.layer.id"
            :placement="item.placement"
            :source="item.source"
            :scale="scale * pixelRatio"
            @press="press(item.layer.id)"
            @move="move(item.layer.id, $event)"
            @reshape="reshape(item.layer.id, $event)"
            @release="release"
          />
        </VLayer>
        <VLayer>
          <VTransformer ref="transformer" :config="transformerConfig" />
        </VLayer>
      </VStage>
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
