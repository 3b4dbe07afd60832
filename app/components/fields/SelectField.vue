<script setup lang="ts" generic="Value extends string | number">
import { useId } from 'vue'

const props = defineProps<{
  modelValue: Value
  label: string
  choices: readonly { value: Value; label: string }[]
  hideLabel?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [value: Value] }>()

const id = useId()

function take(event: Event): void {
  const choice = props.choices[(event.target as HTMLSelectElement).selectedIndex]
  if (choice) emit('update:modelValue', choice.value)
}
</script>

<template>
  <div class="flex min-w-0 flex-col gap-0.5">
    <label :for="id" :class="hideLabel ? 'sr-only' : 'text-ink-2 text-xs'">{{ label }}</label>
    <select :id="id" class="field" :value="modelValue" @change="take">
      <option v-for="choice in choices" :key="choice.value" :value="choice.value">
        {{ choice.label }}
      </option>
    </select>
  </div>
</template>
