<script setup lang="ts">
import { nativeSizeOf } from '@green-mantle/core/show'
import { sizeInWords } from '@green-mantle/core/words'
import { computed } from 'vue'
import { isFileMissing } from '~/pictures/sourcePictures'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { sourceIcons } from '../sourceIcons'
import FocusSection from './FocusSection.vue'
import KeySection from './KeySection.vue'
import LookSection from './LookSection.vue'
import PlaceSection from './PlaceSection.vue'
import SourceSection from './SourceSection.vue'
import TrimSection from './TrimSection.vue'

const store = useShowStore()
const selection = useSelectionStore()
const chosen = computed(() => selection.selected)

const frameRateNote = computed(() => {
  const own = chosen.value?.source.nativeFramesPerSecond
  const shared = store.show.canvasPair.framesPerSecond
  if (own === null || own === undefined) return 'a still'
  return own < shared ? `at ${own}; the show runs at ${shared}` : `at ${own}`
})
const isMissing = computed(() => chosen.value !== undefined && isFileMissing(chosen.value.source))
/** From a field back to where the keys of the canvas work; not while Escape took back what was typed. */
function leaveToCanvas(event: KeyboardEvent): void {
  if (event.defaultPrevented) return
  document.querySelector<HTMLElement>(`[data-canvas=${selection.canvas}]`)?.focus()
}
</script>

<template>
  <aside
    aria-label="The chosen source"
    class="border-rule bg-sheet overflow-y-auto border-l p-3.5"
    @keydown.esc="leaveToCanvas"
  >
    <template v-if="chosen">
      <div class="flex items-center gap-2">
        <component :is="sourceIcons[chosen.source.kind]" class="size-4.5 shrink-0" />
        <h2 class="truncate text-lg" :title="chosen.source.name">{{ chosen.source.name }}</h2>
      </div>
      <p class="text-ink-2 mt-0.5 text-xs">
        gives <span class="number">{{ sizeInWords(nativeSizeOf(chosen.source)) }}</span>
        {{ frameRateNote }}
      </p>
      <p v-if="isMissing" class="text-madder mt-1 text-xs">
        Its file is not kept here. “Another file” below gives it back; everything else stays.
      </p>
      <p v-if="selection.chosen.length > 1" class="mt-1 text-xs font-semibold">
        and {{ selection.chosen.length - 1 }} more. What is done below is done to all of them.
      </p>
      <PlaceSection />
      <SourceSection />
      <TrimSection />
      <LookSection />
      <KeySection />
      <FocusSection />
    </template>
    <p v-else class="text-ink-2">
      Choose a source on a canvas or in the list to see and type where it stands.
    </p>
  </aside>
</template>
