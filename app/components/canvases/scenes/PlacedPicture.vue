<script setup lang="ts">
import { baselinesOf, middleOf, partsOfPlacement } from '@green-mantle/core/canvas'
import type { Dressing, Placement, Size, Source } from '@green-mantle/core/show'
import { computed } from 'vue'
import { fontFamilies } from '~/pictures/fontFamilies'
import { addressOf } from '~/pictures/sourcePictures'

/** One placement as SVG, in canvas pixels. */
const props = defineProps<{
  placement: Placement
  source: Source
  dressing: Dressing
  canvas: Size
}>()

const parts = computed(() => partsOfPlacement(props))
const address = computed(() => addressOf(props.source))
const transform = computed(() => {
  const { placement } = props
  const { x, y } = middleOf(placement)
  const flip = `${placement.flippedAcross ? -1 : 1} ${placement.flippedDown ? -1 : 1}`
  return `translate(${x} ${y}) rotate(${placement.turnDegrees}) scale(${flip}) translate(${-placement.width / 2} ${-placement.height / 2})`
})
</script>

<template>
  <g :transform="transform" :opacity="placement.opacityPercent / 100">
    <template v-for="(part, index) in parts" :key="index">
      <template v-if="part.kind === 'picture'">
        <svg
          v-if="address"
          :width="part.box.width"
          :height="part.box.height"
          :viewBox="`${part.crop.x} ${part.crop.y} ${part.crop.width} ${part.crop.height}`"
          preserveAspectRatio="none"
        >
          <image
            :href="address"
            :width="source.nativeWidth"
            :height="source.nativeHeight"
            preserveAspectRatio="none"
          />
        </svg>
        <rect v-else v-bind="part.box" fill="#24332b" />
      </template>
      <rect
        v-else-if="part.kind === 'rectangle'"
        v-bind="part.box"
        :rx="part.cornerRadius"
        :fill="part.fill ?? 'none'"
        :fill-opacity="part.opacity"
        :stroke="part.stroke?.colour"
        :stroke-width="part.stroke?.width"
      />
      <template v-else>
        <text
          v-for="(baseline, line) in baselinesOf(part)"
          :key="line"
          :x="part.align === 'centre' ? part.box.x + part.box.width / 2 : part.box.x"
          :y="baseline"
          :text-anchor="part.align === 'centre' ? 'middle' : 'start'"
          :font-family="fontFamilies[part.font]"
          :font-weight="part.weight"
          :font-size="part.fontSize"
          :fill="part.colour"
        >
          {{ part.lines[line] }}
        </text>
      </template>
    </template>
  </g>
</template>
