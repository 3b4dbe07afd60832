<script setup lang="ts">
import type { Pin as PinName } from '@green-mantle/core/show'
import { Pin, PinOff } from '@lucide/vue'
import { computed } from 'vue'
import { useFitEditing } from './fitEditing'
import type { FitRow } from './rows'

/** Shows whether a cell is pinned, and pins or frees it. */
const props = defineProps<{ row: FitRow; pin: PinName }>()
const editing = useFitEditing()
const isPinned = computed(() => props.row.rendition.pins.includes(props.pin))
const label = computed(
  () => `${isPinned.value ? 'Unpin' : 'Pin'} the ${props.pin} for ${props.row.name}`,
)
</script>

<template>
  <button
    type="button"
    class="button button-quiet min-h-6 min-w-6 shrink-0 p-0!"
    :class="isPinned ? 'text-moss' : 'text-ink-2 opacity-45 hover:opacity-100 focus:opacity-100'"
    :aria-label="label"
    :title="label"
    :aria-pressed="isPinned"
    @click.stop="editing.togglePin(row, pin)"
  >
    <Pin v-if="isPinned" class="size-3.5 fill-current" />
    <PinOff v-else class="size-3.5" />
  </button>
</template>
