<script setup lang="ts">
import { middleOf } from '@green-mantle/core/canvas'
import type { Layer, Placement, Source } from '@green-mantle/core/show'
import type Konva from 'konva'
import { computed } from 'vue'
import { Group as VGroup, Image as VImage, Rect as VRect, Text as VText } from 'vue-konva'
import { shapesOf } from './placementNode'

/** One placement on a Konva stage. Its origin is its middle, so that it turns about it. */
const props = defineProps<{
  layerId: Layer['id']
  placement: Placement
  source: Source
  /** Screen pixels per canvas pixel. */
  scale: number
}>()
const emit = defineEmits<{
  press: []
  move: [node: Konva.Group]
  reshape: [node: Konva.Group]
  release: []
}>()

const shapes = computed(() => shapesOf(props.placement, props.source, props.scale))
const components = { 'v-image': VImage, 'v-rect': VRect, 'v-text': VText }

const config = computed(() => {
  const { placement } = props
  const { x, y } = middleOf(placement)
  return {
    id: props.layerId,
    name: 'placement',
    x,
    y,
    width: placement.width,
    height: placement.height,
    offsetX: placement.width / 2,
    offsetY: placement.height / 2,
    rotation: placement.turnDegrees,
    scaleX: 1,
    scaleY: 1,
    draggable: !placement.locked,
  }
})
/** Flipping happens inside, so that handles and turning stay as they are. */
const flip = computed(() => {
  const { flippedAcross, flippedDown, width, height } = props.placement
  return {
    x: flippedAcross ? width : 0,
    y: flippedDown ? height : 0,
    scaleX: flippedAcross ? -1 : 1,
    scaleY: flippedDown ? -1 : 1,
  }
})

const groupOf = (event: { target: Konva.Node }): Konva.Group => event.target as Konva.Group
</script>

<template>
  <VGroup
    :config="config"
    @mousedown="emit('press')"
    @touchstart="emit('press')"
    @dragmove="emit('move', groupOf($event))"
    @dragend="emit('release')"
    @transform="emit('reshape', groupOf($event))"
    @transformend="emit('release')"
  >
    <VGroup :config="flip">
      <component
        :is="components[shape.kind]"
        v-for="(shape, index) in shapes"
        :key="index"
        :config="shape.config"
      />
    </VGroup>
  </VGroup>
</template>
