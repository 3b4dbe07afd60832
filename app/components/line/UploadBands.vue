<script setup lang="ts">
import { shareOfScale, uploadBands, type UsableUpload } from '@green-mantle/core/network'
import { mbpsInWords } from '@green-mantle/core/words'
import { computed } from 'vue'

/**
 * What is done with the measured upload, behind the chart of the measurements and on its scale. Plain
 * boxes, so that they keep up with a drag, which drawing the chart anew would not.
 */
const props = defineProps<{
  upload: UsableUpload
  lowPercentile: number
  totalKbps: number
  /** The top of the scale. */
  maxKbps: number
}>()

const percent = (share: number): string => `${100 * share}%`
const looks = {
  headroom: { colour: 'var(--rule)', opacity: 0.6 },
  'room for peaks': { colour: 'var(--rule)', opacity: 0.9 },
  'other traffic': { colour: 'var(--ink-2)', opacity: 0.35 },
  usable: { colour: 'var(--leaf)', opacity: 0.55 },
} as const

const bands = computed(() => uploadBands(props.upload, props.maxKbps))
const levels = computed(() => [
  {
    name: `P${props.lowPercentile}`,
    kbps: props.upload.measuredKbps,
    colour: 'var(--ink)',
    line: 'border-solid',
  },
  // Nothing sent lies on the time axis, and says nothing there.
  ...(props.totalKbps > 0
    ? [
        {
          name: 'the plan sends',
          kbps: props.totalKbps,
          colour: 'var(--river)',
          line: 'border-dashed',
        },
      ]
    : []),
])
/** Little above the axis its words go above the line. */
const isLow = (kbps: number): boolean => shareOfScale(kbps, props.maxKbps) < 0.12
</script>

<template>
  <div class="text-xs">
    <div
      v-for="band in bands"
      :key="band.name"
      class="absolute inset-x-0 flex items-center justify-end overflow-hidden pr-1.5"
      :style="{ bottom: percent(band.from), height: percent(band.height) }"
    >
      <span
        class="absolute inset-0"
        :style="{ background: looks[band.name].colour, opacity: looks[band.name].opacity }"
        aria-hidden="true"
      />
      <span v-if="band.isNamed" class="text-ink-2 relative">{{ band.name }}</span>
    </div>
    <div
      v-for="level in levels"
      :key="level.name"
      class="absolute inset-x-0 border-t-2 pl-1.5 leading-none"
      :class="level.line"
      :style="{ top: percent(shareOfScale(maxKbps - level.kbps, maxKbps)), color: level.colour }"
    >
      <span class="absolute left-1.5" :class="isLow(level.kbps) ? 'bottom-1' : 'top-0.5'"
        >{{ level.name }} {{ mbpsInWords(level.kbps) }}</span
      >
    </div>
  </div>
</template>
