<script setup lang="ts" generic="Value extends number | null">
import { readQuantity, type Units } from '@green-mantle/core/words'
import { computed, nextTick, ref, useId, useTemplateRef, watch } from 'vue'
import { useToastStore } from '~/stores/toasts'

const props = withDefaults(
  defineProps<{
    modelValue: Value
    label: string
    /** Shown behind the number. */
    unit?: string
    units?: Units
    min?: number
    max?: number
    step?: number
    decimals?: number
    /** Whether the field may be left empty, which gives null. */
    optional?: boolean
    hideLabel?: boolean
    disabled?: boolean
  }>(),
  { unit: '', units: () => ({}), min: -Infinity, max: Infinity, step: 1, decimals: 0 },
)
const emit = defineEmits<{ 'update:modelValue': [value: Value] }>()

const id = useId()
const toasts = useToastStore()
const shown = computed(() =>
  props.modelValue === null ? '' : String(Number(props.modelValue.toFixed(props.decimals))),
)
const text = ref(shown.value)
const problem = ref('')
const field = useTemplateRef<HTMLInputElement>('field')
watch(shown, async (value, before) => {
  // What a person is typing is not taken from under their hands.
  if (text.value !== before) return
  const { selectionStart = 0, selectionEnd = 0 } = field.value ?? {}
  const isAllSelected = selectionStart === 0 && selectionEnd === text.value.length
  text.value = value
  problem.value = ''
  // Nor is a selection that the next key is meant to replace.
  if (!isAllSelected || document.activeElement !== field.value) return
  await nextTick()
  field.value?.select()
})

function offer(value: number): void {
  const factor = 10 ** props.decimals
  const rounded = Math.round(value * factor) / factor
  if (rounded < props.min || rounded > props.max) {
    const unit = props.unit && ` ${props.unit}`
    problem.value = `${props.label}: from ${props.min} to ${props.max}${unit}`
    return
  }
  problem.value = ''
  text.value = String(rounded)
  if (rounded !== props.modelValue) emit('update:modelValue', rounded as Value)
}

function take(): void {
  if (text.value === shown.value) {
    problem.value = ''
    return
  }
  if (props.optional && text.value.trim() === '') {
    problem.value = ''
    emit('update:modelValue', null as Value)
    return
  }
  const read = readQuantity(text.value, props.units)
  if (read.ok) offer(read.value)
  else problem.value = read.message
}

/** What can't be taken is said and then given up, so that the field never shows a value that does not count. */
function leave(): void {
  take()
  if (!problem.value) return
  toasts.tell(`${problem.value}. It stays at ${shown.value || 'empty'}.`)
  text.value = shown.value
  problem.value = ''
}

/** Escape puts back what counts. */
function giveUp(): void {
  text.value = shown.value
  problem.value = ''
}

function stepBy(event: KeyboardEvent, direction: 1 | -1): void {
  event.preventDefault()
  const read = readQuantity(text.value, props.units)
  if (!read.ok) return
  const wanted = read.value + direction * props.step * (event.shiftKey ? 10 : 1)
  offer(Math.min(props.max, Math.max(props.min, wanted)))
}
</script>

<template>
  <div class="flex min-w-0 flex-col gap-0.5">
    <label :for="id" :class="hideLabel ? 'sr-only' : 'text-ink-2 text-xs'">{{ label }}</label>
    <div class="relative">
      <input
        :id="id"
        ref="field"
        v-model="text"
        type="text"
        inputmode="decimal"
        autocomplete="off"
        spellcheck="false"
        class="field number text-right"
        :style="unit ? { paddingRight: `${unit.length * 0.5 + 0.9}rem` } : undefined"
        :disabled="disabled"
        :data-unchanged="text === shown"
        :aria-invalid="problem !== ''"
        :aria-describedby="problem ? `${id}-problem` : undefined"
        @change="take"
        @blur="leave"
        @keydown.enter="take"
        @keydown.esc="giveUp"
        @keydown.up="stepBy($event, 1)"
        @keydown.down="stepBy($event, -1)"
        @focus="($event.target as HTMLInputElement).select()"
      />
      <span
        v-if="unit"
        aria-hidden="true"
        class="text-ink-2 pointer-events-none absolute inset-y-0 right-2 flex items-center text-xs"
        >{{ unit }}</span
      >
    </div>
    <p v-if="problem" :id="`${id}-problem`" role="alert" class="text-madder text-xs">
      {{ problem }}
    </p>
  </div>
</template>
