<script setup lang="ts">
import QuantityField from '~/components/fields/QuantityField.vue'
import { useOwnTask } from '~/composables/ownTask'
import { useShowStore } from '~/stores/show'
import { useFitEditing } from './fitEditing'
import type { FitRow } from './rows'

/** The video bitrate of a row, to drag or to type. */
const props = defineProps<{ row: FitRow }>()
const store = useShowStore()
const editing = useFitEditing()

function set(videoBitrateKbps: number, mergeKey?: string): void {
  editing.set(props.row, { videoBitrateKbps }, 'video bitrate', mergeKey)
}

const dragged = useOwnTask((videoBitrateKbps: number) =>
  set(videoBitrateKbps, `bitrate ${props.row.rendition.id}`),
)

function endDrag(): void {
  dragged.finish()
  store.endMerge()
}
</script>

<template>
  <div class="grid grid-cols-[3.75rem_4rem] items-center gap-1">
    <input
      type="range"
      class="h-6 w-full"
      :style="{ accentColor: row.canvas === 'landscape' ? 'var(--river)' : 'var(--foxglove)' }"
      :aria-label="`Video bitrate for ${row.name}, up to its limit`"
      :min="row.rules.leastVideoBitrateKbps ?? 250"
      :max="row.rules.mostVideoBitrateKbps"
      step="50"
      :value="row.rendition.videoBitrateKbps"
      :aria-valuetext="`${row.rendition.videoBitrateKbps} kb/s`"
      @input="dragged.later(Number(($event.target as HTMLInputElement).value))"
      @change="endDrag"
    />
    <QuantityField
      quantity="video bitrate"
      cell
      :label="`Video bitrate for ${row.name}`"
      :model-value="row.rendition.videoBitrateKbps"
      @update:model-value="set($event)"
    />
  </div>
</template>
