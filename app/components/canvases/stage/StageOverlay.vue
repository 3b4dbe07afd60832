<script setup lang="ts">
import {
  type Box,
  type Distance,
  focusOnCanvas,
  safeAreaBoxes,
  type SnapLine,
  zoneBox,
} from '@green-mantle/core/canvas'
import { type CanvasName, nativeSizeOf } from '@green-mantle/core/show'
import { useSelectionStore } from '~/stores/selection'
import { computed } from 'vue'
import { useShowStore } from '~/stores/show'
import { useWorkbenchStore } from '~/stores/workbench'

/** What lies over a canvas without being part of it: cover zones, safe areas, guides and distances. */
const props = defineProps<{
  canvas: CanvasName
  /** Screen pixels per canvas pixel. */
  scale: number
  guides: readonly SnapLine[]
  distances: readonly Distance[]
  rectangle: Box | undefined
}>()

const store = useShowStore()
const workbench = useWorkbenchStore()
const selection = useSelectionStore()
const size = computed(() => store.show.canvasPair[props.canvas])
const zones = computed(() =>
  (workbench.shown[props.canvas]?.zones ?? []).map((zone) => ({
    ...zoneBox(zone, size.value),
    id: zone.id,
    name: zone.name,
  })),
)
const safeAreas = computed(() => (workbench.showsSafeAreas ? safeAreaBoxes(size.value) : []))
/** The part of the chosen source that has to stay whole, as it stands on this canvas. */
const focus = computed(() => {
  const chosen = selection.selected
  const placement = chosen?.layer[props.canvas]
  const isElsewhere = props.canvas === 'vertical' && selection.sharesVertical
  if (!chosen?.source.focus || !placement?.shown || isElsewhere) return undefined
  return focusOnCanvas(placement, nativeSizeOf(chosen.source), chosen.source.focus)
    .map(({ x, y }) => `${x},${y}`)
    .join(' ')
})
/** Lengths that look the same however small the canvas is drawn. */
const px = computed(() => 1 / props.scale)
/** The label of a narrow zone at the right edge runs to the left. */
const labelEnds = (zone: Box): boolean => zone.x > size.value.width / 2
</script>

<template>
  <svg
    class="pointer-events-none absolute inset-0 size-full"
    :viewBox="`0 0 ${size.width} ${size.height}`"
    aria-hidden="true"
    data-overlay
  >
    <g v-for="zone in zones" :key="zone.id">
      <rect
        :x="zone.x"
        :y="zone.y"
        :width="zone.width"
        :height="zone.height"
        :rx="6 * px"
        fill="#8a3f79"
        stroke="#fffdf6"
        fill-opacity="0.42"
        :stroke-width="1.2 * px"
        :stroke-dasharray="`${4 * px} ${3 * px}`"
        data-zone
      />
      <text
        :x="labelEnds(zone) ? zone.x + zone.width : zone.x + 6 * px"
        :text-anchor="labelEnds(zone) ? 'end' : 'start'"
        :y="zone.y + 14 * px"
        :font-size="11 * px"
        fill="#fffdf6"
        font-weight="600"
        paint-order="stroke"
        stroke="#1f2a23"
        :stroke-width="2.5 * px"
      >
        {{ zone.name }}
      </text>
    </g>
    <rect
      v-for="area in safeAreas"
      :key="area.name"
      :x="area.x"
      :y="area.y"
      :width="area.width"
      :height="area.height"
      fill="none"
      stroke="#fffdf6"
      :stroke-width="px"
      :stroke-dasharray="
        area.name === 'action safe' ? `${8 * px} ${5 * px}` : `${2 * px} ${3 * px}`
      "
      data-safe-area
    />
    <polygon
      v-if="focus"
      :points="focus"
      fill="none"
      stroke="#fffdf6"
      stroke-opacity="0.8"
      :stroke-width="px"
      :stroke-dasharray="`${px} ${3 * px}`"
      data-focus
    />
    <line
      v-for="(guide, index) in guides"
      :key="`guide-${index}`"
      :x1="guide.axis === 'across' ? guide.at : 0"
      :x2="guide.axis === 'across' ? guide.at : size.width"
      :y1="guide.axis === 'across' ? 0 : guide.at"
      :y2="guide.axis === 'across' ? size.height : guide.at"
      stroke="#f2c14e"
      :stroke-width="1.2 * px"
      data-guide
    />
    <g v-for="(distance, index) in distances" :key="`distance-${index}`">
      <line
        :x1="distance.from.x"
        :y1="distance.from.y"
        :x2="distance.from.x + (distance.axis === 'across' ? distance.pixels : 0)"
        :y2="distance.from.y + (distance.axis === 'down' ? distance.pixels : 0)"
        stroke="#fffdf6"
        stroke-opacity="0.75"
        :stroke-width="px"
      />
      <text
        :x="distance.from.x + (distance.axis === 'across' ? distance.pixels / 2 : 5 * px)"
        :y="distance.from.y + (distance.axis === 'down' ? distance.pixels / 2 : -4 * px)"
        :font-size="11 * px"
        :text-anchor="distance.axis === 'across' ? 'middle' : 'start'"
        fill="#fffdf6"
        class="number"
        paint-order="stroke"
        stroke="#1f2a23"
        :stroke-width="3 * px"
      >
        {{ Math.round(distance.pixels) }}
      </text>
    </g>
    <rect
      v-if="rectangle"
      v-bind="rectangle"
      fill="#fffdf6"
      fill-opacity="0.15"
      stroke="#fffdf6"
      :stroke-width="px"
      :stroke-dasharray="`${3 * px} ${3 * px}`"
    />
  </svg>
</template>
