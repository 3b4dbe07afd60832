<script setup lang="ts">
import { ref, useId, watch } from 'vue'

/** A text of several lines, taken when the field is left. */
const props = defineProps<{
  modelValue: string
  label: string
  hideLabel?: boolean
  max: number
}>()
const emit = defineEmits<{ 'update:modelValue': [value: string] }>()
const id = useId()
const text = ref(props.modelValue)
watch(
  () => props.modelValue,
  (value) => (text.value = value),
)
function take(): void {
  if (text.value !== props.modelValue) emit('update:modelValue', text.value)
}
</script>

<template>
  <div class="flex min-w-0 flex-col gap-0.5">
    <label :for="id" :class="hideLabel ? 'sr-only' : 'text-ink-2 text-xs'">{{ label }}</label>
    <textarea
      :id="id"
      v-model="text"
      class="field min-h-20"
      :maxlength="max"
      :data-unchanged="text === modelValue"
      @change="take"
    />
  </div>
</template>
