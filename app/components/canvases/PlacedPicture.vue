<script setup lang="ts">
import { captionFontSize, goalBarParts, middleOf, usedPart } from '@green-mantle/core/canvas'
import type { Placement, Source } from '@green-mantle/core/show'
import { computed } from 'vue'
import { drawingAddress } from '~/composables/drawings'

/** One placement as SVG, in canvas pixels. */
const props = defineProps<{ placement: Placement; source: Source }>()

const used = computed(() =>
  usedPart(
    { width: props.source.nativeWidth, height: props.source.nativeHeight },
    props.placement.trim,
  ),
)
const transform = computed(() => {
  const { placement } = props
  const { x, y } = middleOf(placement)
  const flip = `${placement.flippedAcross ? -1 : 1} ${placement.flippedDown ? -1 : 1}`
  return `translate(${x} ${y}) rotate(${placement.turnDegrees}) scale(${flip}) translate(${-placement.width / 2} ${-placement.height / 2})`
})
const goal = computed(() =>
  props.source.appearance.type === 'goal bar'
    ? goalBarParts(props.placement, props.source.appearance.percent)
    : undefined,
)
const words = computed(() =>
  'text' in props.source.appearance ? props.source.appearance.text : '',
)
</script>

<template>
  <g :transform="transform">
    <svg
      v-if="source.appearance.type === 'drawing'"
      :width="placement.width"
      :height="placement.height"
      :viewBox="`${used.x} ${used.y} ${used.width} ${used.height}`"
      preserveAspectRatio="none"
    >
      <image
        :href="drawingAddress(source.appearance.drawing)"
        :width="source.nativeWidth"
        :height="source.nativeHeight"
      />
    </svg>
    <rect
      v-else-if="source.appearance.type === 'colour'"
      :width="placement.width"
      :height="placement.height"
      :fill="source.appearance.colour"
    />
    <template v-else-if="goal">
      <rect
        :width="placement.width"
        :height="placement.height"
        :rx="goal.cornerRadius"
        fill="#fffdf6"
      />
      <rect v-bind="goal.track" fill="#dce7cf" />
      <rect v-bind="goal.filled" fill="#2f5d3a" />
    </template>
    <text
      v-else
      :x="placement.width / 2"
      :y="placement.height / 2"
      :fill="source.appearance.type === 'text' ? source.appearance.colour : '#fffdf6'"
      :font-size="captionFontSize(placement, words.length)"
      text-anchor="middle"
      dominant-baseline="central"
      font-weight="600"
    >
      {{ words }}
    </text>
  </g>
</template>
