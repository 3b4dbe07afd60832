<script setup lang="ts">
import { type DateValue, parseDateTime } from '@internationalized/date'
import { DateFieldInput, DateFieldRoot } from 'reka-ui'
import { computed, shallowRef, useId, watch } from 'vue'

/**
 * A wall-clock time, typed part by part in the order and by the clock in which the application writes
 * times, whatever the browser's own are.
 */
const props = defineProps<{
  /** As in `2026-12-12T21:00`; empty where none is set. */
  modelValue: string
  label: string
  hideLabel?: boolean
  /** It can't be emptied. */
  required?: boolean
}>()
const emit = defineEmits<{ 'update:modelValue': [value: string] }>()

const id = useId()
const read = (text: string): DateValue | undefined =>
  text === '' ? undefined : parseDateTime(text.slice(0, 16))
/** Kept apart until the field is left, so that a year is not taken after its first digit. */
const typed = shallowRef<DateValue | undefined>(read(props.modelValue))
watch(
  () => props.modelValue,
  (value) => (typed.value = read(value)),
)
const written = computed(() => typed.value?.toString().slice(0, 16) ?? '')

function take(): void {
  const isEmptied = written.value === ''
  if (isEmptied && props.required) typed.value = read(props.modelValue)
  else if (written.value !== props.modelValue.slice(0, 16)) emit('update:modelValue', written.value)
}

function leave(event: FocusEvent): void {
  const field = event.currentTarget as HTMLElement
  if (!field.contains(event.relatedTarget as Node | null)) take()
}

/** As in every field: what was typed is taken back first. */
function takeBack(event: KeyboardEvent): void {
  if (written.value === props.modelValue.slice(0, 16)) return
  typed.value = read(props.modelValue)
  event.preventDefault()
}
const isWritten = (part: string): boolean => part !== 'literal'
</script>

<template>
  <div class="flex min-w-0 flex-col gap-0.5">
    <span :id="id" :class="hideLabel ? 'sr-only' : 'text-ink-2 text-xs'">{{ label }}</span>
    <DateFieldRoot
      v-slot="{ segments }"
      v-model="typed"
      locale="en-GB"
      granularity="minute"
      :hour-cycle="24"
      :aria-labelledby="id"
      class="field number flex items-center"
      @focusout="leave"
      @keydown.enter="take"
      @keydown.esc.capture="takeBack"
    >
      <DateFieldInput
        v-for="(segment, index) in segments"
        :key="index"
        :part="segment.part"
        class="rounded px-0.5"
        :class="isWritten(segment.part) ? 'focus:bg-leaf min-h-6 leading-6' : 'text-ink-2'"
        >{{ segment.value }}</DateFieldInput
      >
    </DateFieldRoot>
  </div>
</template>
