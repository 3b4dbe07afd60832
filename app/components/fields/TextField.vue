<script setup lang="ts">
import { ref, useId, watch } from 'vue'

const props = withDefaults(
  defineProps<{
    modelValue: string
    label: string
    hideLabel?: boolean
    /** An empty text is not taken. */
    required?: boolean
    type?: 'text' | 'color'
    max?: number
  }>(),
  { type: 'text', max: 200 },
)
const emit = defineEmits<{ 'update:modelValue': [value: string] }>()

const id = useId()
const text = ref(props.modelValue)
watch(
  () => props.modelValue,
  (value) => {
    text.value = value
  },
)

function take(): void {
  const wanted = text.value.trim()
  if (props.required && wanted === '') text.value = props.modelValue
  else if (wanted !== props.modelValue) emit('update:modelValue', wanted)
}
</script>

<template>
  <div class="flex min-w-0 flex-col gap-0.5">
    <label :for="id" :class="hideLabel ? 'sr-only' : 'text-ink-2 text-xs'">{{ label }}</label>
    <input
      :id="id"
      v-model="text"
      :type="type"
      :maxlength="max"
      autocomplete="off"
      class="field"
      :data-unchanged="text === modelValue"
      @change="take"
      @keydown.enter="take"
    />
  </div>
</template>
