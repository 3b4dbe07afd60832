<script setup lang="ts">
import { computed } from 'vue'

/** The last rates of a send, as an area up to what was planned. */
const props = defineProps<{ rates: readonly number[]; plannedKbps: number; slots: number }>()

const height = 24
const points = computed(() => {
  const most = Math.max(props.plannedKbps * 1.2, ...props.rates)
  const from = props.slots - props.rates.length
  const at = props.rates.map(
    (kbps, index) => `${from + index},${(height - (kbps / most) * height).toFixed(1)}`,
  )
  return [`${from},${height}`, ...at, `${props.slots - 1},${height}`].join(' ')
})
</script>

<template>
  <svg
    class="h-6 w-full"
    :viewBox="`0 0 ${slots - 1} ${height}`"
    preserveAspectRatio="none"
    aria-hidden="true"
  >
    <polygon :points="points" fill="currentColor" opacity="0.75" />
  </svg>
</template>
