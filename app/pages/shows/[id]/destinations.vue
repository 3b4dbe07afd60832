<script setup lang="ts">
import { type CanvasName, canvasNames } from '@green-mantle/core/show'
import { Plus } from '@lucide/vue'
import { computed, nextTick } from 'vue'
import { offerCommands } from '~/commands/commands'
import DestinationCard from '~/components/destinations/DestinationCard.vue'
import DestinationPanel from '~/components/destinations/DestinationPanel.vue'
import { useDestinationEditing } from '~/components/destinations/editing'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'

const store = useShowStore()
const selection = useSelectionStore()
const editing = useDestinationEditing()

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

offerCommands(
  canvasNames.map((canvas) => ({
    id: `destinations.add.${canvas}`,
    label: `Add a destination on ${canvas}`,
    group: 'Destinations',
    ...(canvas === 'landscape' ? { keys: 'n' } : {}),
    run: () => void add(canvas),
  })),
)
</script>

<template>
  <div class="grid h-full grid-cols-[minmax(0,1fr)_minmax(0,1fr)_25rem]">
    <h2 class="sr-only">Destinations</h2>
    <section
      v-for="column in columns"
      :key="column.canvas"
      class="overflow-y-auto p-4"
      :class="column.canvas === 'landscape' ? 'pr-2' : 'pl-2'"
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
      class="border-rule bg-sheet overflow-y-auto border-l p-4"
      aria-label="The chosen destination"
    >
      <DestinationPanel
        v-if="selection.destination"
        :key="selection.destination.id"
        :destination="selection.destination"
      />
      <p v-else class="text-ink-2">Choose a destination to see and change what it accepts.</p>
    </aside>
  </div>
</template>
