<script setup lang="ts">
import type { ECBasicOption } from 'echarts/types/dist/shared'
import { computed } from 'vue'
import VChart from 'vue-echarts'
import { useTurns } from '~/composables/inTurn'

/** A chart that comes in two pieces, its axes and then what is plotted, so that neither holds the page up. */
const props = defineProps<{ option: ECBasicOption }>()
const turns = useTurns(2)
const shown = computed(() =>
  turns.value < 2 ? { ...props.option, series: [], legend: undefined } : props.option,
)
</script>

<template>
  <VChart v-if="turns > 0" :option="shown" autoresize />
  <div v-else />
</template>
