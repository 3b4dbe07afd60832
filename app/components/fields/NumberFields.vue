<script setup lang="ts">
import type { Units } from '@green-mantle/core/words'
import NumberField from './NumberField.vue'

/** Several numbers of one thing, each described rather than written out; none of them can be empty. */
export interface NumberDescription<Name extends string = string> {
  name: Name
  label: string
  value: number
  min: number
  max: number
  unit?: string
  units?: Units
  decimals?: number
  step?: number
}

defineProps<{ fields: readonly NumberDescription[] }>()
defineEmits<{ change: [name: string, value: number] }>()
</script>

<template>
  <NumberField
    v-for="field in fields"
    :key="field.name"
    :label="field.label"
    :unit="field.unit ?? ''"
    :units="field.units ?? {}"
    :decimals="field.decimals ?? 0"
    :min="field.min"
    :max="field.max"
    :step="field.step ?? 1"
    :model-value="field.value"
    @update:model-value="$emit('change', field.name, $event)"
  />
</template>
