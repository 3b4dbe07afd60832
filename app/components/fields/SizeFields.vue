<script setup lang="ts">
import { sideLimitsPixels, type Size } from '@green-mantle/core/show'
import { pixelUnits } from '@green-mantle/core/words'
import { useToastStore } from '~/stores/toasts'
import NumberField from './NumberField.vue'

/** A width and a height in pixels. Sides of a picture are even; an odd one is taken a pixel less, and said so. */
const props = defineProps<{ modelValue: Size; hideLabels?: boolean }>()
const emit = defineEmits<{ 'update:modelValue': [size: Size] }>()
const toasts = useToastStore()

function set(side: keyof Size, pixels: number | null): void {
  if (pixels === null) return
  const isOdd = pixels % 2 !== 0
  if (isOdd) toasts.tell('Sides are even; it was taken one pixel less.')
  const { width, height } = props.modelValue
  emit('update:modelValue', { width, height, [side]: isOdd ? pixels - 1 : pixels })
}
const sides = [
  { side: 'width', label: 'Width, px' },
  { side: 'height', label: 'Height, px' },
] as const
</script>

<template>
  <div class="grid grid-cols-2 gap-2">
    <NumberField
      v-for="{ side, label } in sides"
      :key="side"
      :label="label"
      :hide-label="hideLabels"
      :model-value="modelValue[side]"
      :units="pixelUnits"
      :least="sideLimitsPixels.smallest"
      :most="sideLimitsPixels.largest"
      :step="2"
      @update:model-value="set(side, $event)"
    />
  </div>
</template>
