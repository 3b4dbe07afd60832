<script setup lang="ts">
import { zonesInUse } from '@green-mantle/core/canvas'
import type { CanvasName } from '@green-mantle/core/show'
import { computed } from 'vue'
import { useShowStore } from '~/stores/show'

/** What viewing apps draw over a canvas, over the picture of it in the window; never sent. */
const { canvas } = defineProps<{ canvas: CanvasName }>()
const store = useShowStore()
const size = computed(() => store.show.canvasPair[canvas])
const zones = computed(() => {
  const { width, height } = size.value
  return zonesInUse(store.show.destinations, canvas).map(({ destination, zone }) => ({
    key: `${destination.id} ${zone.id}`,
    name: zone.name,
    box: {
      x: zone.x * width,
      y: zone.y * height,
      width: zone.width * width,
      height: zone.height * height,
    },
  }))
})
/** Its name would be cut off at the right edge. */
const isAtTheEdge = ({ x }: { x: number }): boolean => x > size.value.width * 0.7
</script>

<template>
  <!-- Fitted into its box as the canvas beneath is. -->
  <svg
    class="pointer-events-none absolute inset-0 size-full"
    :viewBox="`0 0 ${size.width} ${size.height}`"
    preserveAspectRatio="xMinYMin meet"
    aria-hidden="true"
  >
    <g v-for="{ key, name, box } in zones" :key="key">
      <rect
        v-bind="box"
        fill="var(--slab-foxglove)"
        fill-opacity="0.35"
        stroke="#ffffff"
        stroke-width="2"
        stroke-dasharray="6 4"
        vector-effect="non-scaling-stroke"
      />
      <text
        :x="isAtTheEdge(box) ? box.x + box.width : box.x + size.width * 0.02"
        :text-anchor="isAtTheEdge(box) ? 'end' : 'start'"
        :y="box.y + size.width * 0.05"
        :font-size="size.width * 0.045"
        fill="#ffffff"
        stroke="#101010"
        :stroke-width="size.width * 0.008"
        paint-order="stroke"
      >
        {{ name }}
      </text>
    </g>
  </svg>
</template>
