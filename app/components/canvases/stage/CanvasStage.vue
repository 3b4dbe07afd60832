<script setup lang="ts">
import { displayScale } from '@green-mantle/core/canvas'
import type { CanvasName, Layer } from '@green-mantle/core/show'
import { sizeInWords } from '@green-mantle/core/words'
import { useDevicePixelRatio } from '@vueuse/core'
import type Konva from 'konva'
import { computed, useTemplateRef } from 'vue'
import {
  Layer as VLayer,
  Rect as VRect,
  Stage as VStage,
  Transformer as VTransformer,
} from 'vue-konva'
import { useElementSize } from '~/composables/elementSize'
import { useTurns } from '~/composables/inTurn'
import { redrawOnMotion } from '~/pictures/playback'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useWorkbenchStore } from '~/stores/workbench'
import { useHandles } from './handles'
import { useKeyColour } from './keyColour'
import PlacementShape from './PlacementShape.vue'
import { usePointing } from './pointing'
import { useSceneFade } from './sceneFade'
import { useStageKeys } from './stageKeys'
import StageOverlay from './StageOverlay.vue'

const props = defineProps<{ canvas: CanvasName }>()

const store = useShowStore()
const selection = useSelectionStore()
const workbench = useWorkbenchStore()

const frame = useTemplateRef<HTMLElement>('frame')
const surface = useTemplateRef<HTMLElement>('surface')
const transformer = useTemplateRef<{ getNode(): Konva.Transformer }>('transformer')
const stage = useTemplateRef<{ getNode(): Konva.Stage }>('stage')
const pictures = useTemplateRef<{ getNode(): Konva.Layer }>('pictures')
const fading = useTemplateRef<HTMLCanvasElement>('fading')
const space = useElementSize(frame)
const { pixelRatio } = useDevicePixelRatio()
const turns = useTurns()

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
const hand = usePointing(props.canvas, () => scale.value, pointOf)
const onKey = useStageKeys(props.canvas)
const pickKeyColour = useKeyColour(props.canvas)
const transformerConfig = useHandles(props.canvas, {
  scale: () => scale.value,
  isShared,
  transformer: () => transformer.value?.getNode(),
  stage: () => stage.value,
  hold: hand.holdHandle,
})
useSceneFade(props.canvas, () => pictures.value?.getNode().getNativeCanvasElement(), fading)
redrawOnMotion(() => pictures.value?.getNode().batchDraw())

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
  const isTaken =
    event.type === 'mousedown' && (pickKeyColour(pointOf(event)) || hand.startTrimming(event))
  if (!isTaken) return
  event.stopPropagation()
  event.preventDefault()
  surface.value?.focus({ preventScroll: true })
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
      <VStage v-if="turns > 0 && stageConfig.width > 0" ref="stage" :config="stageConfig">
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
