<script setup lang="ts">
import { edges } from '@green-mantle/core/canvas'
import { hasOwnPixels, onBoth } from '@green-mantle/core/show'
import { pixelUnits, shareUnits } from '@green-mantle/core/words'
import { computed } from 'vue'
import { useSelectionStore } from '~/stores/selection'
import { usePlacing } from '../editing/placing'
import InspectorSection from './InspectorSection.vue'
import PairOfNumbers from './PairOfNumbers.vue'

const selection = useSelectionStore()
const placing = usePlacing()
const chosen = computed(() => selection.selected)

const titles = { left: 'Left', top: 'Top', right: 'Right', bottom: 'Bottom' } as const

const disabled = computed(() =>
  onBoth(
    (canvas) =>
      (canvas === 'vertical' && selection.sharesVertical) ||
      (chosen.value?.layer[canvas].locked ?? true),
  ),
)
function unitsOf(edge: (typeof edges)[number]) {
  const source = chosen.value?.source
  const along = edge === 'left' || edge === 'right' ? source?.nativeWidth : source?.nativeHeight
  return onBoth(() => ({ ...pixelUnits, ...shareUnits(along ?? 100) }))
}
const isTrimmed = computed(() => {
  const layer = chosen.value?.layer
  return (
    layer !== undefined &&
    edges.some((edge) => layer.landscape.trim[edge] > 0 || layer.vertical.trim[edge] > 0)
  )
})
</script>

<template>
  <InspectorSection
    v-if="chosen && hasOwnPixels(chosen.source)"
    title="Trim, in its own pixels"
    :summary="isTrimmed ? 'trimmed' : ''"
  >
    <PairOfNumbers
      v-for="edge in edges"
      :key="edge"
      :label="titles[edge]"
      :spoken-label="`${titles[edge]} trim`"
      unit-name="px"
      :values="{
        landscape: chosen.layer.landscape.trim[edge],
        vertical: chosen.layer.vertical.trim[edge],
      }"
      :units="unitsOf(edge)"
      :disabled="disabled"
      :min="0"
      :max="16384"
      @change="(canvas, value) => placing.setTrim(canvas, edge, value ?? 0)"
    />
    <p class="text-ink-2 text-xs">Or hold Alt and drag an edge on a canvas.</p>
  </InspectorSection>
</template>
