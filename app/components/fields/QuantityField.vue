<script setup lang="ts" generic="Value extends number | null">
import { computed } from 'vue'
import NumberField from './NumberField.vue'
import { quantities, type QuantityName } from './quantities'

/**
 * A number of a known kind. As a cell of a table (`cell`) its label is heard and not seen, with the
 * unit that the head of the column shows.
 */
const props = defineProps<{
  quantity: QuantityName
  modelValue: Value
  label: string
  cell?: boolean
  optional?: boolean
}>()
defineEmits<{ 'update:modelValue': [value: Value] }>()

const kind = computed(() => quantities[props.quantity])
const spoken = computed(() =>
  props.cell && kind.value.unit ? `${props.label}, ${kind.value.unit}` : props.label,
)
</script>

<template>
  <NumberField
    :hide-label="cell"
    :label="spoken"
    :unit="cell ? '' : kind.unit"
    :units="kind.units"
    :min="kind.min"
    :max="kind.max"
    :step="kind.step"
    :decimals="kind.decimals"
    :optional="optional"
    :model-value="modelValue"
    @update:model-value="$emit('update:modelValue', $event)"
  />
</template>
