<script setup lang="ts">
import { type CanvasName, canvasNames } from '@green-mantle/core/show'
import { BookMarked, PenLine, Plus, Table2 } from '@lucide/vue'
import { computed, nextTick, onMounted, ref } from 'vue'
import { offerCommands } from '~/commands/commands'
import CompareDialog from '~/components/destinations/CompareDialog.vue'
import DestinationCard from '~/components/destinations/DestinationCard.vue'
import DestinationPanel from '~/components/destinations/DestinationPanel.vue'
import { useDestinationEditing } from '~/components/destinations/destinationEditing'
import ProfilesDialog from '~/components/destinations/profiles/ProfilesDialog.vue'
import ShowWordsDialog from '~/components/destinations/words/ShowWordsDialog.vue'
import { useProfilesStore } from '~/stores/profiles'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'

const store = useShowStore()
const selection = useSelectionStore()
const editing = useDestinationEditing()
const profiles = useProfilesStore()
const open = ref<'profiles' | 'compare' | 'words'>()
onMounted(() => void profiles.load())

const columns = computed(() =>
  canvasNames.map((canvas) => {
    const destinations = store.show.destinations.filter((item) => item.canvas === canvas)
    return { canvas, destinations, onCount: destinations.filter(({ on }) => on).length }
  }),
)
const colours: Record<CanvasName, string> = {
  landscape: 'text-river border-river',
  vertical: 'text-foxglove border-foxglove',
}

async function add(canvas: CanvasName): Promise<void> {
  editing.add(canvas)
  await nextTick()
  // Naming it is the first thing to do.
  document.querySelector<HTMLInputElement>('#destination-name input')?.select()
}

offerCommands([
  {
    id: 'destinations.profiles',
    label: 'Add from a profile',
    group: 'Destinations',
    run: () => (open.value = 'profiles'),
  },
  {
    id: 'destinations.words',
    label: 'Words and picture for all destinations',
    group: 'Destinations',
    run: () => (open.value = 'words'),
  },
  {
    id: 'destinations.compare',
    label: 'Compare all limits',
    group: 'Destinations',
    run: () => (open.value = 'compare'),
  },
  ...canvasNames.map((canvas) => ({
    id: `destinations.add.${canvas}`,
    label: `Add a destination on ${canvas}`,
    group: 'Destinations',
    ...(canvas === 'landscape' ? { keys: 'n' } : {}),
    run: () => void add(canvas),
  })),
])
</script>

<template>
  <div
    class="roomy:h-full roomy:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_26rem] roomy:grid-rows-[auto_minmax(0,1fr)] grid grid-cols-[minmax(0,1fr)]"
  >
    <div class="border-rule roomy:col-span-2 flex flex-wrap items-center gap-2 border-b px-4 py-2">
      <h2 class="grow text-2xl">Destinations</h2>
      <button type="button" class="button button-primary" @click="open = 'profiles'">
        <BookMarked class="size-4" /> Add from a profile …
      </button>
      <button type="button" class="button" @click="open = 'words'">
        <PenLine class="size-4" /> Words for all …
      </button>
      <button
        type="button"
        class="button"
        :disabled="store.show.destinations.length === 0"
        @click="open = 'compare'"
      >
        <Table2 class="size-4" /> Compare …
      </button>
    </div>
    <section
      v-for="column in columns"
      :key="column.canvas"
      class="overflow-y-auto p-4"
      :class="column.canvas === 'landscape' ? 'roomy:pr-2' : 'roomy:pl-2'"
      :aria-label="`On ${column.canvas}`"
    >
      <h3 class="mb-3 border-b-3 pb-1.5 text-lg" :class="colours[column.canvas]">
        On {{ column.canvas }}
        <span class="text-ink-2 text-sm font-normal"
          >{{ column.onCount }} of {{ column.destinations.length }} on</span
        >
      </h3>
      <ul class="flex flex-col gap-2.5">
        <DestinationCard
          v-for="destination in column.destinations"
          :key="destination.id"
          :destination="destination"
        />
      </ul>
      <p v-if="column.destinations.length === 0" class="text-ink-2">
        Nothing is sent from this canvas yet. Add the first place you send to.
      </p>
      <button type="button" class="button mt-3" @click="add(column.canvas)">
        <Plus class="size-4" /> Destination
      </button>
    </section>
    <aside
      class="border-rule bg-sheet roomy:col-start-3 roomy:row-span-2 roomy:row-start-1 roomy:border-t-0 roomy:border-l overflow-y-auto border-t p-4"
      aria-label="The chosen destination"
    >
      <DestinationPanel
        v-if="selection.destination"
        :key="selection.destination.id"
        :destination="selection.destination"
      />
      <p v-else class="text-ink-2">Choose a destination to see and change what it accepts.</p>
    </aside>
    <ProfilesDialog v-if="open === 'profiles'" @close="open = undefined" />
    <CompareDialog v-else-if="open === 'compare'" @close="open = undefined" />
    <ShowWordsDialog v-else-if="open === 'words'" @close="open = undefined" />
  </div>
</template>
