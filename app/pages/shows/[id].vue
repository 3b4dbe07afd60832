<script setup lang="ts">
import { NuxtPage } from '#components'
import { useHead } from '#imports'
import { useEventListener } from '@vueuse/core'
import { defineAsyncComponent, onUnmounted, ref, watch } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import { wordsFor } from '~/api/problem'
import { type Command, offerCommands } from '~/commands/commands'
import { listenForKeys } from '~/commands/keys'
import SaveBanner from '~/components/frame/SaveBanner.vue'
import TopBar from '~/components/frame/TopBar.vue'
import UploadStrata from '~/components/frame/UploadStrata.vue'
import { steps } from '~/components/frame/steps'
import {
  downloadCalendar,
  downloadEncoderScript,
  downloadPlanFile,
  downloadPlaylist,
  downloadSettingsSheet,
  downloadShowFile,
} from '~/composables/files'
import { useNight } from '~/composables/useNight'
import { usePlannerStore } from '~/stores/planner'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'

// Dialogs come when they are first opened.
const ChangedElsewhereDialog = defineAsyncComponent(
  () => import('~/components/frame/ChangedElsewhereDialog.vue'),
)
const FinderDialog = defineAsyncComponent(() => import('~/components/frame/FinderDialog.vue'))
const ShortcutList = defineAsyncComponent(() => import('~/components/frame/ShortcutList.vue'))
const ShowDetails = defineAsyncComponent(() => import('~/components/frame/ShowDetails.vue'))

const store = useShowStore()
// There on every step: what changes the plan moves the strata everywhere.
usePlannerStore()
const selection = useSelectionStore()
const route = useRoute()
const router = useRouter()
const { toggle: toggleNight } = useNight()

const problem = ref('')
const open = ref<'shortcuts' | 'finder' | 'details' | 'elsewhere'>()
const close = (): void => {
  open.value = undefined
}

watch(
  () => String(route.params.id),
  async (id) => {
    problem.value = ''
    try {
      await store.open(id)
    } catch (error) {
      problem.value = wordsFor(error)
    }
  },
  { immediate: true },
)
watch(
  () => store.saveState.name,
  (name) => {
    if (name === 'changed elsewhere') open.value = 'elsewhere'
  },
)
onUnmounted(() => store.close())
useEventListener(window, 'beforeunload', (event) => {
  if (store.isOpen && store.isUnsaved) event.preventDefault()
})
useEventListener(window, 'pagehide', () => store.keep())
useHead({ title: () => (store.isOpen ? `${store.show.title} · Green Mantle` : 'Green Mantle') })

offerCommands([
  ...steps.map((step): Command => ({
    id: `step.${step.name}`,
    label: `Go to ${step.label}`,
    group: 'Steps',
    keys: `Alt+Digit${step.digit}`,
    worksInFields: 'always',
    run: () => void router.push(`/shows/${store.id}/${step.name}`),
  })),
  {
    id: 'show.undo',
    label: 'Undo',
    group: 'Show',
    keys: '$mod+z',
    worksInFields: 'when unchanged',
    isPossible: () => store.canUndo,
    run: () => store.undo(),
  },
  {
    id: 'show.redo',
    label: 'Redo',
    group: 'Show',
    keys: '$mod+Shift+z',
    worksInFields: 'when unchanged',
    isPossible: () => store.canRedo,
    run: () => store.redo(),
  },
  {
    id: 'show.find',
    label: 'Find anything',
    group: 'Show',
    keys: '$mod+k',
    worksInFields: 'always',
    run: () => (open.value = 'finder'),
  },
  {
    id: 'show.shortcuts',
    label: 'Keys on this page',
    group: 'Show',
    keys: 'Shift+?',
    run: () => (open.value = 'shortcuts'),
  },
  {
    id: 'show.details',
    label: 'Title, date and length',
    group: 'Show',
    run: () => (open.value = 'details'),
  },
  {
    id: 'show.file',
    label: 'Save the show as a file',
    group: 'Take away',
    run: () => void downloadShowFile(store.show),
  },
  {
    id: 'show.sheet',
    label: 'Save the settings sheet',
    group: 'Take away',
    run: () => void downloadSettingsSheet(store.show),
  },
  {
    id: 'show.plan',
    label: 'Save the plan as JSON',
    group: 'Take away',
    run: () => void downloadPlanFile(store.show),
  },
  {
    id: 'show.script',
    label: 'Save the plan as an encoder script',
    group: 'Take away',
    run: () => void downloadEncoderScript(store.show),
  },
  {
    id: 'show.calendar',
    label: 'Save the run-up as a calendar',
    group: 'Take away',
    run: () => void downloadCalendar(store.show, store.id),
  },
  {
    id: 'show.print',
    label: 'Settings sheet to print',
    group: 'Take away',
    run: () => void router.push(`/sheets/${store.id}`),
  },
  { id: 'show.night', label: 'Day or night colours', group: 'Show', run: toggleNight },
  {
    id: 'show.guide',
    label: 'Guide: a show from first to last',
    group: 'Steps',
    run: () => void router.push('/guide'),
  },
  { id: 'show.home', label: 'Home, all shows', group: 'Steps', run: () => void router.push('/') },
])
/** A ladder as the playlist that its players read. */
offerCommands(() =>
  store.isOpen
    ? store.show.destinations
        .filter(({ on, renditions }) => on && renditions.length > 1)
        .map((destination): Command => ({
          id: `playlist.${destination.id}`,
          label: `Save the ladder of ${destination.name} as an HLS playlist`,
          group: 'Take away',
          run: () => void downloadPlaylist(destination),
        }))
    : [],
)
/** Every scene, source and destination by its name. */
offerCommands(() => {
  if (!store.isOpen) return []
  const go = (step: string): void => void router.push(`/shows/${store.id}/${step}`)
  return [
    ...store.show.scenes.map((scene): Command => ({
      id: `scene.${scene.id}`,
      label: scene.name,
      group: 'Scenes',
      run: () => {
        selection.chooseScene(scene.id)
        go('canvases')
      },
    })),
    ...selection.scene.layers.map((layer): Command => ({
      id: `layer.${layer.id}`,
      label: selection.sourcesById.get(layer.sourceId)?.name ?? layer.sourceId,
      group: 'Sources of this scene',
      run: () => {
        selection.layerId = layer.id
        go('canvases')
      },
    })),
    ...store.show.destinations.map((destination): Command => ({
      id: `destination.${destination.id}`,
      label: destination.name,
      group: 'Destinations',
      run: () => {
        selection.destinationId = destination.id
        go('destinations')
      },
    })),
  ]
})
listenForKeys()
</script>

<template>
  <main v-if="problem" class="mx-auto max-w-xl p-12">
    <h1 class="text-2xl">This show can’t be opened</h1>
    <p class="mt-2">{{ problem }}</p>
    <RouterLink to="/" class="link mt-4 inline-block">Home, all shows</RouterLink>
  </main>
  <div v-else-if="store.isOpen" class="flex h-dvh flex-col overflow-hidden">
    <TopBar @shortcuts="open = 'shortcuts'" @find="open = 'finder'" @details="open = 'details'" />
    <SaveBanner @choose="open = 'elsewhere'" />
    <main class="min-h-0 grow"><NuxtPage /></main>
    <UploadStrata />
    <ShortcutList v-if="open === 'shortcuts'" @close="close" />
    <FinderDialog v-else-if="open === 'finder'" @close="close" />
    <ShowDetails v-else-if="open === 'details'" @close="close" />
    <ChangedElsewhereDialog v-else-if="open === 'elsewhere'" @close="close" />
  </div>
  <p v-else role="status" class="text-ink-2 p-12">Opening the show …</p>
</template>
