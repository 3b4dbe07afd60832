<script setup lang="ts">
import type { UsableUpload } from '@green-mantle/core/network'
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
  mostKbps: number
}>()

/** A band thinner than this share of what was measured goes without its name; the sum beside the chart names it. */
const leastNamedShare = 0.1

const share = (kbps: number): number => Math.min(1, Math.max(0, kbps / props.mostKbps))
const percent = (kbps: number): string => `${100 * share(kbps)}%`

const bands = computed(() => {
  const { measuredKbps, headroomKbps, usableKbps } = props.upload
  const headroomFrom = measuredKbps - headroomKbps
  return [
    { name: 'headroom', from: headroomFrom, to: measuredKbps, colour: 'var(--rule)', opacity: 0.6 },
    {
      name: 'other traffic',
      from: usableKbps,
      to: headroomFrom,
      colour: 'var(--ink-2)',
      opacity: 0.35,
    },
    { name: 'usable', from: 0, to: usableKbps, colour: 'var(--leaf)', opacity: 0.55 },
  ].map((band) => ({ ...band, isNamed: band.to - band.from > measuredKbps * leastNamedShare }))
})
const levels = computed(() => [
  {
    name: `P${props.lowPercentile}`,
    kbps: props.upload.measuredKbps,
    colour: 'var(--ink)',
    line: 'border-solid',
  },
  { name: 'the plan sends', kbps: props.totalKbps, colour: 'var(--river)', line: 'border-dashed' },
])
</script>

<template>
  <div class="text-xs">
    <div
      v-for="band in bands"
      :key="band.name"
      class="absolute inset-x-0 flex items-center justify-end overflow-hidden pr-1.5"
      :style="{ bottom: percent(band.from), height: percent(band.to - band.from) }"
    >
      <span
        class="absolute inset-0"
        :style="{ background: band.colour, opacity: band.opacity }"
        aria-hidden="true"
      />
      <span v-if="band.isNamed" class="text-ink-2 relative">{{ band.name }}</span>
    </div>
    <div
      v-for="level in levels"
      :key="level.name"
      class="absolute inset-x-0 border-t-2 pt-0.5 pl-1.5 leading-none"
      :class="level.line"
      :style="{ top: percent(mostKbps - level.kbps), color: level.colour }"
    >
      {{ level.name }} {{ mbpsInWords(level.kbps) }}
    </div>
  </div>
</template>
