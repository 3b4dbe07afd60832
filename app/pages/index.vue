<script setup lang="ts">
import { FolderOpen, Keyboard, Moon, Plus, Sun } from '@lucide/vue'
import { defineAsyncComponent, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { offerCommands } from '~/commands/commands'
import { listenForKeys } from '~/commands/keys'
import ShowCard from '~/components/home/ShowCard.vue'
import { useNight } from '~/composables/useNight'
import { useShowsStore } from '~/stores/shows'

// Dialogs come when they are first opened.
const PlainHttpNote = defineAsyncComponent(() => import('~/components/frame/PlainHttpNote.vue'))
const FinderDialog = defineAsyncComponent(() => import('~/components/frame/FinderDialog.vue'))
const ShortcutList = defineAsyncComponent(() => import('~/components/frame/ShortcutList.vue'))

const shows = useShowsStore()
const router = useRouter()
const { isNight, toggle } = useNight()
const open = ref<'shortcuts' | 'finder'>()

onMounted(() => shows.load())

async function goTo(made: Promise<string | undefined>): Promise<void> {
  const id = await made
  if (id) await router.push(`/shows/${id}/canvases`)
}

const isPlainHttp = !globalThis.isSecureContext
offerCommands([
  { id: 'home.new', label: 'New show', group: 'Shows', keys: 'n', run: () => goTo(shows.create()) },
  {
    id: 'home.open',
    label: 'Open a show file',
    group: 'Shows',
    keys: 'o',
    run: () => goTo(shows.openFile()),
  },
  {
    id: 'home.undo',
    label: 'Undo',
    group: 'Shows',
    keys: '$mod+z',
    isPossible: () => shows.lastUndo !== undefined,
    run: () => void shows.lastUndo?.(),
  },
  { id: 'home.night', label: 'Day or night colours', group: 'Shows', run: toggle },
  {
    id: 'home.find',
    label: 'Find anything',
    group: 'Shows',
    keys: '$mod+k',
    worksInFields: 'always',
    run: () => (open.value = 'finder'),
  },
  {
    id: 'home.shortcuts',
    label: 'Keys on this page',
    group: 'Shows',
    keys: 'Shift+?',
    run: () => (open.value = 'shortcuts'),
  },
])
listenForKeys()
</script>

<template>
  <div class="min-h-dvh">
    <PlainHttpNote v-if="isPlainHttp" />
    <header class="border-rule bg-sheet border-b">
      <div class="mx-auto flex h-16 max-w-6xl items-center gap-3 px-6">
        <img src="/mark.svg" alt="" class="size-9" />
        <h1 class="grow text-2xl">Green Mantle</h1>
        <button type="button" class="button" @click="goTo(shows.openFile())">
          <FolderOpen class="size-4" /> Open a file
        </button>
        <button type="button" class="button button-primary" @click="goTo(shows.create())">
          <Plus class="size-4" /> New show
        </button>
        <button
          type="button"
          class="button button-quiet"
          :aria-label="isNight ? 'Day colours' : 'Night colours'"
          @click="toggle"
        >
          <Sun v-if="isNight" class="size-4.5" />
          <Moon v-else class="size-4.5" />
        </button>
        <button
          type="button"
          class="button button-quiet"
          aria-label="Keys on this page"
          @click="open = 'shortcuts'"
        >
          <Keyboard class="size-4.5" />
        </button>
      </div>
    </header>
    <main class="mx-auto max-w-6xl p-6">
      <div v-if="shows.problem" role="alert" class="card border-madder p-4">
        <p class="text-madder">{{ shows.problem }}</p>
        <button type="button" class="button mt-2" @click="shows.load()">Try again</button>
      </div>
      <p v-else-if="!shows.summaries" role="status" class="text-ink-2">Looking for your shows …</p>
      <section v-else-if="shows.summaries.length === 0" class="card max-w-xl p-6">
        <h2 class="text-xl">No show yet</h2>
        <p class="mt-2">
          A show holds your scenes on a landscape and a vertical canvas, your line, and every place
          you send to. Begin with an empty one, or look around in the demo.
        </p>
        <div class="mt-4 flex gap-2">
          <button type="button" class="button button-primary" @click="goTo(shows.create())">
            <Plus class="size-4" /> New show
          </button>
          <button type="button" class="button" @click="goTo(shows.addDemo())">
            Open the demo show
          </button>
        </div>
      </section>
      <ul
        v-else
        class="grid grid-cols-[repeat(auto-fill,minmax(20rem,1fr))] gap-4"
        aria-label="Shows"
      >
        <ShowCard
          v-for="summary in shows.summaries"
          :key="summary.id"
          :summary="summary"
          @duplicate="shows.duplicate(summary)"
          @rename="shows.rename(summary, $event)"
          @remove="shows.remove(summary)"
          @file="shows.saveAsFile(summary)"
        />
      </ul>
      <div v-if="shows.next" class="mt-4 flex justify-center">
        <button type="button" class="button" @click="shows.loadMore()">Older shows</button>
      </div>
      <section
        v-if="shows.spoilt.length > 0"
        class="card border-ochre mt-4 p-4"
        aria-label="Shows that can’t be read"
      >
        <p class="text-ochre font-semibold">
          {{
            shows.spoilt.length === 1
              ? 'One show can’t be read'
              : `${shows.spoilt.length} shows can’t be read`
          }}
        </p>
        <p class="text-ink-2">
          What is stored of it does not hold together; nothing of it was changed. The server’s log
          says where:
          {{ shows.spoilt.map(({ title }) => `“${title}”`).join(', ') }}.
        </p>
      </section>
    </main>
    <ShortcutList v-if="open === 'shortcuts'" @close="open = undefined" />
    <FinderDialog v-else-if="open === 'finder'" @close="open = undefined" />
  </div>
</template>
