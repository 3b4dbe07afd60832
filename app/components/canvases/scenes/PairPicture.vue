<script setup lang="ts">
import {
  type CanvasName,
  canvasNames,
  type CanvasPair,
  type Dressing,
  type Layer,
  type Source,
} from '@green-mantle/core/show'
import { useIntersectionObserver } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'
import PlacedPicture from './PlacedPicture.vue'

/** A small picture of what is on air on both canvases. */
const props = defineProps<{
  layers: Readonly<Record<CanvasName, readonly Layer[]>>
  sources: ReadonlyMap<string, Source>
  canvasPair: CanvasPair
  dressing: Dressing
  /** Both where left out. */
  only?: CanvasName
}>()

// Of a long list only what has been in sight is drawn: twenty scenes at once hold the page up.
const root = useTemplateRef('root')
const hasBeenSeen = ref(false)
const { isSupported, stop } = useIntersectionObserver(
  root,
  ([entry]) => {
    if (!entry?.isIntersecting) return
    hasBeenSeen.value = true
    stop()
  },
  { rootMargin: '100px' },
)
const isDrawn = computed(() => hasBeenSeen.value || !isSupported.value)

const shownOn = (canvas: CanvasName) =>
  props.layers[canvas]
    .flatMap((layer) => {
      const source = props.sources.get(layer.sourceId)
      return source && layer[canvas].shown
        ? [{ id: layer.id, source, placement: layer[canvas] }]
        : []
    })
    .toReversed()
const canvases = computed(() =>
  canvasNames
    .filter((name) => props.only === undefined || props.only === name)
    .map((name) => ({
      name,
      size: props.canvasPair[name],
      placed: isDrawn.value ? shownOn(name) : [],
    })),
)
</script>

<template>
  <div ref="root" class="flex items-stretch gap-1" aria-hidden="true">
    <svg
      v-for="{ name, size, placed } in canvases"
      :key="name"
      class="block h-full rounded-sm bg-stage"
      :viewBox="`0 0 ${size.width} ${size.height}`"
      :style="{ aspectRatio: `${size.width} / ${size.height}` }"
    >
      <PlacedPicture
        v-for="item in placed"
        :key="item.id"
        :placement="item.placement"
        :source="item.source"
        :dressing="dressing"
        :canvas="size"
      />
    </svg>
  </div>
</template>
