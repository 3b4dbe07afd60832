<script setup lang="ts">
import { computed } from 'vue'

const props = defineProps<{ state: 'settled' | 'attention' | 'not begun' | 'fails' }>()
const colour = computed(
  () =>
    ({
      settled: 'text-moss',
      attention: 'text-ochre',
      'not begun': 'text-ink-2',
      fails: 'text-madder',
    })[props.state],
)
</script>

<template>
  <svg viewBox="0 0 12 12" class="size-2.5 shrink-0" :class="colour" aria-hidden="true">
    <circle v-if="state === 'settled'" cx="6" cy="6" r="4.5" fill="currentColor" />
    <path v-else-if="state === 'attention'" d="M6 1 11.5 11H.5Z" fill="currentColor" />
    <path v-else-if="state === 'fails'" d="M1 6 6 1l5 5-5 5Z" fill="currentColor" />
    <circle v-else cx="6" cy="6" r="4" fill="none" stroke="currentColor" stroke-width="1.5" />
  </svg>
</template>
