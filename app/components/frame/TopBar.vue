<script setup lang="ts">
import { startClockNote } from '@green-mantle/core/destinations'
import { wallClockInWords } from '@green-mantle/core/words'
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { Download, Keyboard, Moon, Redo2, Search, Sun, TriangleAlert, Undo2 } from '@lucide/vue'
import { computed } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import {
  downloadCalendar,
  downloadEncoderScript,
  downloadPlanFile,
  downloadSettingsSheet,
  downloadShowFile,
} from '~/composables/files'
import { useNight } from '~/composables/useNight'
import { useShowStore } from '~/stores/show'
import SaveNote from './SaveNote.vue'
import StepBar from './StepBar.vue'

defineEmits<{ shortcuts: []; find: []; details: [] }>()

const store = useShowStore()
const router = useRouter()
const { isNight, toggle } = useNight()

const takeAway = [
  { label: 'Show file, JSON', run: () => void downloadShowFile(store.show) },
  { label: 'Settings sheet, CSV', run: () => void downloadSettingsSheet(store.show) },
  { label: 'Settings sheet, to print', run: () => void router.push(`/sheets/${store.id}`) },
  { label: 'Plan, JSON', run: () => void downloadPlanFile(store.show) },
  { label: 'Encoder script, shell', run: () => void downloadEncoderScript(store.show) },
  { label: 'Run-up, iCalendar', run: () => void downloadCalendar(store.show, store.id) },
]

const clockNote = computed(() => startClockNote(store.show))
const when = computed(() => wallClockInWords(store.show.startsAt, 'short'))
</script>

<template>
  <header
    class="border-rule bg-sheet roomy:grid roomy:h-13 flex shrink-0 flex-wrap grid-cols-[minmax(0,1fr)_auto_minmax(max-content,1fr)] items-center gap-x-3 border-b px-4 xl:gap-x-4"
  >
    <div class="flex min-w-40 flex-1 items-center gap-3">
      <RouterLink to="/" aria-label="Home, all shows" class="shrink-0 rounded">
        <img src="/mark.svg" alt="" class="size-7" />
      </RouterLink>
      <div class="min-w-0">
        <h1 class="truncate text-lg leading-tight">
          <button
            type="button"
            class="max-w-full truncate text-left"
            title="Title, date and length"
            @click="$emit('details')"
          >
            {{ store.show.title }}
          </button>
        </h1>
        <p class="text-ink-2 truncate text-xs">
          <button
            v-if="clockNote"
            type="button"
            class="text-ochre inline-flex items-center gap-1 font-semibold"
            :title="clockNote"
            :aria-label="`${when}. ${clockNote}`"
            @click="$emit('details')"
          >
            <TriangleAlert class="size-3" />{{ when }}</button
          ><template v-else>{{ when }}</template> · <SaveNote />
        </p>
      </div>
    </div>
    <StepBar class="roomy:order-none order-last" />
    <div class="flex flex-wrap items-center justify-end gap-0.5">
      <button
        type="button"
        class="button button-quiet"
        :disabled="!store.canUndo"
        :aria-label="store.canUndo ? `Undo: ${store.undoLabel}` : 'Undo'"
        :title="store.canUndo ? `Undo: ${store.undoLabel}` : 'Nothing to undo'"
        @click="store.undo()"
      >
        <Undo2 class="size-4.5" />
      </button>
      <button
        type="button"
        class="button button-quiet"
        :disabled="!store.canRedo"
        :aria-label="store.canRedo ? `Redo: ${store.redoLabel}` : 'Redo'"
        :title="store.canRedo ? `Redo: ${store.redoLabel}` : 'Nothing to redo'"
        @click="store.redo()"
      >
        <Redo2 class="size-4.5" />
      </button>
      <Menu as="div" class="relative">
        <MenuButton class="button button-quiet" aria-label="Take away" title="Take away">
          <Download class="size-4.5" />
        </MenuButton>
        <MenuItems class="card absolute right-0 z-30 mt-1 w-60 p-1 shadow-lg">
          <MenuItem v-for="item in takeAway" :key="item.label" v-slot="{ active }">
            <button
              type="button"
              class="w-full rounded px-2 py-1.5 text-left"
              :class="active ? 'bg-leaf' : ''"
              @click="item.run"
            >
              {{ item.label }}
            </button>
          </MenuItem>
        </MenuItems>
      </Menu>
      <button
        type="button"
        class="button button-quiet"
        aria-label="Find anything"
        title="Find anything"
        @click="$emit('find')"
      >
        <Search class="size-4.5" />
      </button>
      <button
        type="button"
        class="button button-quiet"
        :aria-label="isNight ? 'Day colours' : 'Night colours'"
        :title="isNight ? 'Day colours' : 'Night colours'"
        @click="toggle"
      >
        <Sun v-if="isNight" class="size-4.5" />
        <Moon v-else class="size-4.5" />
      </button>
      <button
        type="button"
        class="button button-quiet"
        aria-label="Keys on this page"
        title="Keys on this page"
        @click="$emit('shortcuts')"
      >
        <Keyboard class="size-4.5" />
      </button>
    </div>
  </header>
</template>
