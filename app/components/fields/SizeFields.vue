<script setup lang="ts">
import type { Size } from '@green-mantle/core/show'
import { useToastStore } from '~/stores/toasts'
import NumberField from './NumberField.vue'
import { quantities } from './quantities'

/** A width and a height in pixels. Sides of a picture are even; an odd one is taken a pixel less, and said so. */
const props = defineProps<{ modelValue: Size; hideLabels?: boolean }>()
const emit = defineEmits<{ 'update:modelValue': [size: Size] }>()
const toasts = useToastStore()

function set(side: keyof Size, pixels: number): void {
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
      v-bind="quantities.side"
      :key="side"
      unit=""
      :label="label"
      :hide-label="hideLabels"
      :model-value="modelValue[side]"
      @update:model-value="set(side, $event)"
    />
  </div>
</template>
