<script setup lang="ts">
import { type CanvasName, canvasNames } from '@green-mantle/core/show'
import type { Units } from '@green-mantle/core/words'
import NumberField from '~/components/fields/NumberField.vue'

/** One number of the chosen source on both canvases, side by side. */
defineProps<{
  label: string
  /** Said in place of a label that needs what stands around it. */
  spokenLabel?: string
  /** Said after the canvas, as in "X on landscape, px". */
  unitName: string
  unit?: string
  values: Readonly<Record<CanvasName, number | null>>
  units: Readonly<Record<CanvasName, Units>>
  disabled: Readonly<Record<CanvasName, boolean>>
  min: number
  max: number
  decimals?: number
  optional?: boolean
}>()
const emit = defineEmits<{ change: [canvas: CanvasName, value: number | null] }>()
</script>

<template>
  <div class="grid grid-cols-[3.2rem_1fr_1fr] items-center gap-x-2">
    <span aria-hidden="true">{{ label }}</span>
    <NumberField
      v-for="canvas in canvasNames"
      :key="canvas"
      hide-label
      :label="`${spokenLabel ?? label} on ${canvas}, ${unitName}`"
      :unit="unit ?? ''"
      :decimals="decimals ?? 0"
      :model-value="values[canvas]"
      :units="units[canvas]"
      :min="min"
      :max="max"
      :optional="optional ?? false"
      :disabled="disabled[canvas]"
      @update:model-value="emit('change', canvas, $event)"
    />
  </div>
</template>
