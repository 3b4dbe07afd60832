<script setup lang="ts">
import { Switch } from '@headlessui/vue'

defineProps<{ modelValue: boolean; label: string }>()
defineEmits<{ 'update:modelValue': [value: boolean] }>()
</script>

<template>
  <Switch
    :model-value="modelValue"
    class="inline-flex h-6 w-9 shrink-0 items-center rounded-full border p-0.5"
    :class="modelValue ? 'bg-moss border-moss' : 'bg-sunk border-edge'"
    @update:model-value="$emit('update:modelValue', $event)"
  >
    <span class="sr-only">{{ label }}</span>
    <span
      aria-hidden="true"
      class="size-4 rounded-full transition-transform"
      :class="modelValue ? 'bg-on-moss translate-x-3.5' : 'bg-edge'"
    />
  </Switch>
</template>
