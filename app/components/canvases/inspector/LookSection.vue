<script setup lang="ts">
import { canvasNames, onBoth } from '@green-mantle/core/show'
import { percentUnits, pixelUnits } from '@green-mantle/core/words'
import { computed } from 'vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import { useSelectionStore } from '~/stores/selection'
import { usePlacing } from '../editing/placing'
import InspectorSection from './InspectorSection.vue'
import PairOfNumbers from './PairOfNumbers.vue'

const selection = useSelectionStore()
const placing = usePlacing()
const layer = computed(() => selection.selected?.layer)

const disabled = computed(() =>
  onBoth(
    (canvas) =>
      (canvas === 'vertical' && selection.sharesVertical) || (layer.value?.[canvas].locked ?? true),
  ),
)
const opacities = computed(() => onBoth((canvas) => layer.value?.[canvas].opacityPercent ?? 100))
const corners = computed(() => onBoth((canvas) => layer.value?.[canvas].cornerRadius ?? null))
const percents = onBoth(() => percentUnits)
const pixels = onBoth(() => pixelUnits)
</script>

<template>
  <InspectorSection v-if="layer" title="Look">
    <PairOfNumbers
      label="Opacity"
      unit-name="per cent"
      unit="%"
      :values="opacities"
      :units="percents"
      :disabled="disabled"
      :min="0"
      :max="100"
      @change="(canvas, value) => placing.setOpacity(canvas, value ?? 100)"
    />
    <PairOfNumbers
      label="Corners"
      unit-name="px"
      :values="corners"
      :units="pixels"
      :disabled="disabled"
      :min="0"
      :max="16384"
      optional
      @change="(canvas, value) => placing.setCornerRadius(canvas, value)"
    />
    <p class="text-ink-2 text-xs">Empty corners follow the dressing.</p>
    <div class="grid grid-cols-[3.2rem_1fr_1fr] items-center gap-x-2">
      <span>Dressed</span>
      <OnSwitch
        v-for="canvas in canvasNames"
        :key="canvas"
        :label="`Dressed on ${canvas}`"
        :model-value="layer[canvas].dressed"
        @update:model-value="placing.setDressed(canvas, $event)"
      />
    </div>
  </InspectorSection>
</template>
