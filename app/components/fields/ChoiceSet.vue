<script setup lang="ts" generic="Value extends string | number">
const props = defineProps<{
  modelValue: readonly Value[]
  label: string
  choices: readonly { value: Value; label: string }[]
}>()
const emit = defineEmits<{ 'update:modelValue': [value: Value[]] }>()

/** The last one stays: a set that accepts nothing means nothing. A new one comes behind the others. */
function toggle(value: Value): void {
  const others = props.modelValue.filter((chosen) => chosen !== value)
  const next = others.length < props.modelValue.length ? others : [...others, value]
  if (next.length > 0) emit('update:modelValue', next)
}
</script>

<template>
  <fieldset>
    <legend class="text-ink-2 mb-0.5 text-xs">{{ label }}</legend>
    <div class="flex flex-wrap gap-1">
      <button
        v-for="choice in choices"
        :key="choice.value"
        type="button"
        class="button text-xs"
        :aria-pressed="modelValue.includes(choice.value)"
        @click="toggle(choice.value)"
      >
        {{ choice.label }}
      </button>
    </div>
  </fieldset>
</template>
