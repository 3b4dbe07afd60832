<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { Download } from '@lucide/vue'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { download, fileNameFor } from '~/composables/files'
import { useRehearsalStore } from '~/stores/rehearsal'
import { useShowStore } from '~/stores/show'

/** The night and the nights as files, and a report to print. */
const store = useShowStore()
const rehearsal = useRehearsalStore()
const router = useRouter()
const csv = 'text/csv;charset=utf-8'
const name = (what: string): string => `${fileNameFor(store.show.title)} ${what}`

async function saveNight(kind: 'csv' | 'json'): Promise<void> {
  const { looked } = rehearsal
  if (!looked) return
  // Loaded when it is first asked for, by name: else all formats come, and the schema library everywhere.
  const { nightFileExtension, writeNightCsv, writeNightFile } =
    await import('@green-mantle/core/formats')
  const { outcome, trace } = looked
  const what = `night ${outcome.night + 1}`
  if (kind === 'csv') download(`${name(what)}.csv`, csv, writeNightCsv({ outcome, seconds: trace }))
  else
    download(
      `${name(what)}${nightFileExtension}`,
      'application/json',
      writeNightFile({
        title: store.show.title,
        seed: store.show.rehearsal.seed,
        outcome,
        seconds: trace,
      }),
    )
}

async function saveNights(): Promise<void> {
  const { writeNightsCsv } = await import('@green-mantle/core/formats')
  const sends = rehearsal.looked?.sends.map((send) => send.name) ?? []
  download(`${name('nights')}.csv`, csv, writeNightsCsv(rehearsal.summaries, sends))
}

const items = computed(() => [
  { label: 'This night, CSV', run: () => void saveNight('csv') },
  { label: 'This night, JSON', run: () => void saveNight('json') },
  ...(rehearsal.summaries.length > 0
    ? [{ label: 'The many nights, CSV', run: () => void saveNights() }]
    : []),
  {
    label: 'A report to print',
    run: () => void router.push(`/reports/${store.id}?night=${rehearsal.night + 1}`),
  },
])
</script>

<template>
  <Menu as="div" class="relative">
    <MenuButton class="button"><Download class="size-4" /> Take away</MenuButton>
    <MenuItems class="card absolute right-0 z-30 mt-1 w-56 p-1 shadow-lg">
      <MenuItem v-for="item in items" :key="item.label" v-slot="{ active }">
        <button
          type="button"
          class="block w-full rounded px-2 py-1.5 text-left"
          :class="active ? 'bg-leaf' : ''"
          @click="item.run()"
        >
          {{ item.label }}
        </button>
      </MenuItem>
    </MenuItems>
  </Menu>
</template>
