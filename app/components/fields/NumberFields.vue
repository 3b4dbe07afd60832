<script setup lang="ts">
import type { Units } from '@green-mantle/core/words'
import NumberField from './NumberField.vue'

/** Several numbers of one thing, each described rather than written out; none of them can be empty. */
export interface NumberDescription<Name extends string = string> {
  name: Name
  label: string
  value: number
  least: number
  most: number
  unit?: string
  units?: Units
  decimals?: number
  step?: number
}

defineProps<{ fields: readonly NumberDescription[] }>()
const emit = defineEmits<{ change: [name: string, value: number] }>()

function take(name: string, value: number | null): void {
  if (value !== null) emit('change', name, value)
}
</script>

<template>
  <NumberField
    v-for="field in fields"
    :key="field.name"
    :label="field.label"
    :unit="field.unit ?? ''"
    :units="field.units ?? {}"
    :decimals="field.decimals ?? 0"
    :least="field.least"
    :most="field.most"
    :step="field.step ?? 1"
    :model-value="field.value"
    @update:model-value="take(field.name, $event)"
  />
</template>
