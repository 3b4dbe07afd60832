<script setup lang="ts">
import type { CanvasName } from '@green-mantle/core/show'
import { computed, defineAsyncComponent, onBeforeUnmount, ref, useTemplateRef } from 'vue'
import { offerCommands } from '~/commands/commands'
import CanvasCaption from '~/components/canvases/CanvasCaption.vue'
import { useCanvasCommands } from '~/components/canvases/canvasCommands'
import CanvasToolbar from '~/components/canvases/CanvasToolbar.vue'
import SourceInspector from '~/components/canvases/inspector/SourceInspector.vue'
import SceneList from '~/components/canvases/scenes/SceneList.vue'
import SharedVerticalNote from '~/components/canvases/SharedVerticalNote.vue'
import SourceMatrix from '~/components/canvases/SourceMatrix.vue'
import CanvasNotes from '~/components/canvases/viewing/CanvasNotes.vue'
import CoverSelect from '~/components/canvases/viewing/CoverSelect.vue'
import InTurn from '~/components/frame/InTurn.vue'
import { runPlayback } from '~/pictures/playback'
import { releasePictures } from '~/pictures/sourcePictures'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'

// Konva and what is seldom opened are loaded where they are first needed.
const CanvasStage = defineAsyncComponent(
  () => import('~/components/canvases/stage/CanvasStage.vue'),
)
const MatchDialog = defineAsyncComponent(
  () => import('~/components/canvases/matching/MatchDialog.vue'),
)
const DressingPanel = defineAsyncComponent(
  () => import('~/components/canvases/dressing/DressingPanel.vue'),
)
const Beginnings = defineAsyncComponent(() => import('~/components/canvases/Beginnings.vue'))
const SeenDialog = defineAsyncComponent(
  () => import('~/components/canvases/viewing/SeenDialog.vue'),
)

const store = useShowStore()
const selection = useSelectionStore()
const landscape = useTemplateRef<{ focus(): void }>('landscape')
const vertical = useTemplateRef<{ focus(): void }>('vertical')

const matching = ref<CanvasName | 'both'>()
const isDressing = ref(false)
const isSeen = ref(false)
/** Which show is wanted empty, so that it is not asked again. */
const wantedEmpty = ref<string>()
const isNew = computed(
  () =>
    store.show.sources.length === 0 &&
    selection.scene.layers.length === 0 &&
    wantedEmpty.value !== store.id,
)

runPlayback()
onBeforeUnmount(releasePictures)

offerCommands(
  useCanvasCommands({
    focusCanvas: (canvas) => (canvas === 'landscape' ? landscape : vertical).value?.focus(),
    openMatch: (canvas) => (matching.value = canvas),
    openDressing: () => (isDressing.value = true),
    openSeen: () => (isSeen.value = true),
  }),
)
</script>

<template>
  <div
    class="roomy:h-full roomy:grid-cols-[7.5rem_minmax(0,1fr)_14rem] roomy:xl:grid-cols-[8.5rem_minmax(0,1fr)_16rem] grid grid-cols-[minmax(0,1fr)]"
  >
    <h2 class="sr-only">Canvases</h2>
    <SceneList />
    <div v-if="isNew" class="grid min-h-0 place-items-center overflow-y-auto p-4">
      <Beginnings @empty="wantedEmpty = store.id" />
    </div>
    <div
      v-else
      class="roomy:min-h-0 roomy:grid-rows-[minmax(0,1fr)_minmax(7rem,13rem)] grid gap-2 px-4 pt-2"
    >
      <div
        class="roomy:min-h-0 roomy:grid-cols-[minmax(0,2.2fr)_minmax(17.5rem,1fr)] grid grid-cols-[minmax(0,1fr)] gap-5"
      >
        <div
          class="roomy:min-h-0 roomy:grid-rows-[2rem_minmax(0,1fr)_auto_5.5rem] grid grid-cols-[minmax(0,1fr)] grid-rows-[2rem_15rem_auto_auto] gap-1.5"
        >
          <div class="flex items-center justify-between gap-3">
            <CanvasCaption canvas="landscape" />
            <CoverSelect canvas="landscape" />
          </div>
          <CanvasStage ref="landscape" canvas="landscape" />
          <CanvasToolbar
            @match="matching = $event"
            @dressing="isDressing = true"
            @seen="isSeen = true"
          />
          <InTurn><CanvasNotes /></InTurn>
        </div>
        <div
          class="roomy:min-h-0 roomy:grid-rows-[2rem_minmax(0,1fr)] relative grid grid-cols-[minmax(0,1fr)] grid-rows-[2rem_24rem] gap-1.5"
        >
          <div class="flex items-center justify-between gap-2">
            <CanvasCaption canvas="vertical" class="shrink-0" />
            <CoverSelect canvas="vertical" class="shrink" />
          </div>
          <CanvasStage ref="vertical" canvas="vertical" />
          <SharedVerticalNote v-if="selection.sharesVertical" />
        </div>
      </div>
      <InTurn><SourceMatrix /></InTurn>
    </div>
    <InTurn><SourceInspector /></InTurn>
    <MatchDialog v-if="matching" :canvas="matching" @close="matching = undefined" />
    <DressingPanel v-if="isDressing" @close="isDressing = false" />
    <SeenDialog v-if="isSeen" @close="isSeen = false" />
  </div>
</template>
