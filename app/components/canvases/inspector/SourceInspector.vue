<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import { useSelectionStore } from '~/stores/selection'

// With its fields and sections it comes when a source is first chosen.
const ChosenSource = defineAsyncComponent(() => import('./ChosenSource.vue'))

const selection = useSelectionStore()
const chosen = computed(() => selection.selected)

/** From a field back to where the keys of the canvas work; not while Escape took back what was typed. */
function leaveToCanvas(event: KeyboardEvent): void {
  if (event.defaultPrevented) return
  document.querySelector<HTMLElement>(`[data-canvas=${selection.canvas}]`)?.focus()
}
</script>

<template>
  <aside
    aria-label="The chosen source"
    class="border-rule bg-sheet roomy:border-t-0 roomy:border-l overflow-y-auto border-t p-3.5"
    @keydown.esc="leaveToCanvas"
  >
    <ChosenSource v-if="chosen" :chosen="chosen" />
    <p v-else class="text-ink-2">
      Choose a source on a canvas or in the list to see and type where it stands.
    </p>
  </aside>
</template>
