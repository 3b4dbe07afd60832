<script setup lang="ts">
import { type Layer, nativeSizeOf, type Source } from '@green-mantle/core/show'
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

/** The numbers of the source that is chosen, landscape and vertical beside each other. */
const props = defineProps<{ chosen: { layer: Layer; source: Source } }>()
const store = useShowStore()
const selection = useSelectionStore()

const frameRateNote = computed(() => {
  const own = props.chosen.source.nativeFramesPerSecond
  const shared = store.show.canvasPair.framesPerSecond
  if (own === null) return 'a still'
  return own < shared ? `at ${own}; the show runs at ${shared}` : `at ${own}`
})
const isMissing = computed(() => isFileMissing(props.chosen.source))
</script>

<template>
  <div>
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
  </div>
</template>
