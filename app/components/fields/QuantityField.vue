<script setup lang="ts" generic="Value extends number | null">
import { computed } from 'vue'
import NumberField from './NumberField.vue'
import { quantities, type QuantityName } from './quantities'

/**
 * A number of a known kind. With `hideLabel` its label is heard and not seen; as a cell of a table
 * (`cell`) neither is its unit, which the head of the column shows.
 */
const props = defineProps<{
  quantity: QuantityName
  modelValue: Value
  label: string
  cell?: boolean
  hideLabel?: boolean
  optional?: boolean
}>()
defineEmits<{ 'update:modelValue': [value: Value] }>()

const kind = computed(() => quantities[props.quantity])
const isHidden = computed(() => props.cell || props.hideLabel)
const spoken = computed(() =>
  isHidden.value && kind.value.unit ? `${props.label}, ${kind.value.unit}` : props.label,
)
</script>

<template>
  <NumberField
    v-bind="kind"
    :unit="cell ? '' : kind.unit"
    :hide-label="isHidden"
    :label="spoken"
    :optional="optional"
    :model-value="modelValue"
    @update:model-value="$emit('update:modelValue', $event)"
  />
</template>
