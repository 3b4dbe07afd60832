<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { type SourceKind, sourceKinds } from '@green-mantle/core/show'
import { Plus } from '@lucide/vue'
import { computed } from 'vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { placeOnChoices, useSources } from './editing/sources'
import { useOwnFiles } from './editing/ownFiles'
import { sourceIcons } from './sourceIcons'

const store = useShowStore()
const selection = useSelectionStore()
const sources = useSources()
const ownFiles = useOwnFiles()

const placeLabels = {
  both: 'both canvases',
  landscape: 'landscape only',
  vertical: 'vertical only',
} as const
const placeChoices = placeOnChoices.map((value) => ({ value, label: placeLabels[value] }))
const titleOf = (kind: SourceKind): string => kind[0]?.toUpperCase() + kind.slice(1)

const elsewhere = computed(() => {
  const here = new Set(selection.scene.layers.map(({ sourceId }) => sourceId))
  return [...store.show.sources].sort((a, b) => Number(here.has(a.id)) - Number(here.has(b.id)))
})

function add(kind: SourceKind, close: () => void): void {
  close()
  if (kind === 'picture') void ownFiles.choosePicture()
  else if (kind === 'media file') void ownFiles.chooseMedia()
  else void sources.add(kind)
}
</script>

<template>
  <Popover class="relative">
    <PopoverButton id="add-source" class="button"><Plus class="size-4" /> Source</PopoverButton>
    <PopoverPanel
      v-slot="{ close }"
      focus
      class="card absolute left-0 z-30 mt-1 flex w-[30rem] flex-col gap-2.5 p-3 shadow-lg"
      aria-label="Add a source"
    >
      <div class="grid grid-cols-3 gap-1">
        <button
          v-for="kind in sourceKinds"
          :key="kind"
          type="button"
          class="button justify-start! text-left"
          @click="add(kind, close)"
        >
          <component :is="sourceIcons[kind]" class="size-4 shrink-0" />
          {{ titleOf(kind) }}{{ kind === 'picture' || kind === 'media file' ? ' …' : '' }}
        </button>
      </div>
      <SelectField v-model="sources.placeOn.value" label="Place it on" :choices="placeChoices" />
      <div v-if="elsewhere.length > 0" class="border-rule border-t pt-2">
        <h3 class="font-text mb-1 text-sm font-semibold">From this show</h3>
        <ul class="flex max-h-24 flex-col overflow-y-auto">
          <li v-for="source in elsewhere" :key="source.id">
            <button
              type="button"
              class="hover:bg-leaf flex min-h-7 w-full items-center gap-2 rounded px-1 text-left"
              @click="(sources.addExisting(source.id), close())"
            >
              <component :is="sourceIcons[source.kind]" class="size-4 shrink-0" />
              <span class="truncate">{{ source.name }}</span>
            </button>
          </li>
        </ul>
      </div>
      <p class="text-ink-2 text-xs">
        Cameras, screens and guests begin as moving stand-ins; a real camera can be shown in their
        place. {{ ownFiles.limitsInWords }}
      </p>
    </PopoverPanel>
  </Popover>
</template>
