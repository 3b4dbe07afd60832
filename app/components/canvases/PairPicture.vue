<script setup lang="ts">
import type { CanvasName, CanvasPair, Scene, Source } from '@green-mantle/core/show'
import { canvasNames } from '@green-mantle/core/show'
import { computed } from 'vue'
import PlacedPicture from './PlacedPicture.vue'

/** A small picture of a scene on both canvases. */
const props = defineProps<{
  scene: Scene | null
  sources: ReadonlyMap<string, Source>
  canvasPair: CanvasPair
}>()

const shownOn = (canvas: CanvasName) =>
  (props.scene?.layers ?? [])
    .flatMap((layer) => {
      const source = props.sources.get(layer.sourceId)
      return source && layer[canvas].shown
        ? [{ id: layer.id, source, placement: layer[canvas] }]
        : []
    })
    .toReversed()
const canvases = computed(() =>
  canvasNames.map((name) => ({ name, size: props.canvasPair[name], placed: shownOn(name) })),
)
</script>

<template>
  <div class="flex items-stretch gap-1" aria-hidden="true">
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
      />
    </svg>
  </div>
</template>
