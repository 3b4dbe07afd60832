<script setup lang="ts">
import type { CanvasName } from '@green-mantle/core/show'
import { computed } from 'vue'
import { useWorkbenchStore } from '~/stores/workbench'

/** Which destination's viewing app is laid over a canvas. */
const props = defineProps<{ canvas: CanvasName }>()
const workbench = useWorkbenchStore()
const views = computed(() => workbench.views[props.canvas])
const shown = computed(() => workbench.shown[props.canvas])

function choose(event: Event): void {
  const key = (event.target as HTMLSelectElement).value
  workbench.show(
    props.canvas,
    views.value.find((view) => workbench.keyOf(view) === key),
  )
}
</script>

<template>
  <label v-if="views.length > 0" class="min-w-0 text-xs">
    <span class="sr-only">Covered on {{ canvas }} by</span>
    <select
      class="field w-full min-w-0 py-0.5! pr-5! pl-1.5! text-xs"
      :value="shown ? workbench.keyOf(shown) : ''"
      @change="choose"
    >
      <option value="">not covered</option>
      <option v-for="view in views" :key="workbench.keyOf(view)" :value="workbench.keyOf(view)">
        {{ view.mode }}: {{ view.name }}
      </option>
    </select>
  </label>
</template>
