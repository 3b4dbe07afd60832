<script setup lang="ts">
import { shownSourceWidth } from '@green-mantle/core/canvas'
import {
  type Dressing,
  type Layer,
  nativeSizeOf,
  type Placement,
  type Size,
  type Source,
} from '@green-mantle/core/show'
import type Konva from 'konva'
import { computed } from 'vue'
import { Group as VGroup, Image as VImage, Rect as VRect, Text as VText } from 'vue-konva'
import { fontLoads } from '~/pictures/measureWords'
import { feedTime } from '~/pictures/playback'
import { pictureOf } from '~/pictures/sourcePictures'
import { flipConfig, groupConfig, shapesOf } from './placementNode'

/** One placement on a Konva stage. */
const props = defineProps<{
  layerId: Layer['id']
  placement: Placement
  source: Source
  dressing: Dressing
  canvas: Size
  /** Screen pixels per canvas pixel. */
  scale: number
  canBeMoved: boolean
}>()
const emit = defineEmits<{
  press: [event: MouseEvent]
  click: [event: MouseEvent]
  dragStart: []
  move: [node: Konva.Group, event: MouseEvent]
  reshape: [node: Konva.Group]
  release: []
}>()

const shapes = computed(() =>
  shapesOf(
    props,
    () => {
      const native = nativeSizeOf(props.source)
      return pictureOf(props.source, shownSourceWidth(props.placement, native, props.scale))
    },
    ['alerts', 'goal bar'].includes(props.source.kind) ? feedTime.value : undefined,
  ),
)
/** Words are measured by their node when it is made: with another font they want another one. */
const keyOf = (kind: string, index: number): string =>
  kind === 'v-text' ? `${index} ${fontLoads.value}` : `${index}`
const components = { 'v-image': VImage, 'v-rect': VRect, 'v-text': VText }

const config = computed(() => ({
  ...groupConfig(props.placement),
  id: props.layerId,
  name: 'placement',
  draggable: props.canBeMoved,
}))
const flip = computed(() => flipConfig(props.placement))

interface StageEvent {
  target: Konva.Node
  evt: MouseEvent
}
const groupOf = ({ target }: StageEvent): Konva.Group => target as Konva.Group
</script>

<template>
  <VGroup
    :config="config"
    @mousedown="emit('press', $event.evt)"
    @touchstart="emit('press', $event.evt)"
    @click="emit('click', $event.evt)"
    @dragstart="emit('dragStart')"
    @dragmove="emit('move', groupOf($event), $event.evt)"
    @dragend="emit('release')"
    @transform="emit('reshape', groupOf($event))"
    @transformend="emit('release')"
  >
    <VGroup :config="flip">
      <component
        :is="components[shape.kind]"
        v-for="(shape, index) in shapes"
        :key="keyOf(shape.kind, index)"
        :config="shape.config"
      />
    </VGroup>
  </VGroup>
</template>
