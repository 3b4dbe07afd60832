<script setup lang="ts">
import { NuxtPage } from '#components'
import { useHead } from '#imports'
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { defineAsyncComponent, onUnmounted, ref, watch } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { wordsFor } from '~/api/problem'
import { listenForKeys } from '~/commands/keys'
import SaveBanner from '~/components/frame/SaveBanner.vue'
import TopBar from '~/components/frame/TopBar.vue'
import UploadStrata from '~/components/frame/UploadStrata.vue'
import { offerShowCommands, type ShowDialog } from '~/components/frame/showCommands'
import InTurn from '~/components/frame/InTurn.vue'
import { usePlannerStore } from '~/stores/planner'
import { useShowStore } from '~/stores/show'

// Dialogs come when they are first opened.
const ChangedElsewhereDialog = defineAsyncComponent(
  () => import('~/components/frame/ChangedElsewhereDialog.vue'),
)
const PlainHttpNote = defineAsyncComponent(() => import('~/components/frame/PlainHttpNote.vue'))
const FinderDialog = defineAsyncComponent(() => import('~/components/frame/FinderDialog.vue'))
const ShortcutList = defineAsyncComponent(() => import('~/components/frame/ShortcutList.vue'))
const ShowDetails = defineAsyncComponent(() => import('~/components/frame/ShowDetails.vue'))

const isPlainHttp = !globalThis.isSecureContext
const store = useShowStore()
// There on every step: what changes the plan moves the strata everywhere.
usePlannerStore()
const route = useRoute()

const problem = ref('')
const open = ref<ShowDialog | 'elsewhere'>()
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
const lookEveryMilliseconds = 5000
function lookElsewhere(): void {
  if (document.visibilityState === 'visible') void store.lookElsewhere()
}
useIntervalFn(lookElsewhere, lookEveryMilliseconds)
useEventListener(window, 'focus', lookElsewhere)
useHead({ title: () => (store.isOpen ? `${store.show.title} · Green Mantle` : 'Green Mantle') })

offerShowCommands((name) => (open.value = name))
listenForKeys()
</script>

<template>
  <main v-if="problem" class="mx-auto max-w-xl p-12">
    <h1 class="text-2xl">This show can’t be opened</h1>
    <p class="mt-2">{{ problem }}</p>
    <RouterLink to="/" class="link mt-4 inline-block">Home, all shows</RouterLink>
  </main>
  <div v-else-if="store.isOpen" class="roomy:h-dvh roomy:overflow-hidden flex min-h-dvh flex-col">
    <TopBar @shortcuts="open = 'shortcuts'" @find="open = 'finder'" @details="open = 'details'" />
    <PlainHttpNote v-if="isPlainHttp" />
    <SaveBanner @choose="open = 'elsewhere'" />
    <main class="roomy:min-h-0 min-w-0 grow">
      <InTurn><NuxtPage /></InTurn>
    </main>
    <UploadStrata />
    <ShortcutList v-if="open === 'shortcuts'" @close="close" />
    <FinderDialog v-else-if="open === 'finder'" @close="close" />
    <ShowDetails v-else-if="open === 'details'" @close="close" />
    <ChangedElsewhereDialog v-else-if="open === 'elsewhere'" @close="close" />
  </div>
  <p v-else role="status" class="text-ink-2 p-12">Opening the show …</p>
</template>
