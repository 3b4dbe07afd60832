<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import type { CanvasName } from '@green-mantle/core/show'
import {
  FileImage,
  Frame,
  Magnet,
  MonitorPlay,
  Pause,
  Play,
  Shirt,
  Sparkles,
  Telescope,
} from '@lucide/vue'
import { isPlaying, setPlaying } from '~/pictures/playback'
import { useShowStore } from '~/stores/show'
import { useWorkbenchStore } from '~/stores/workbench'
import AddSourcePanel from './AddSourcePanel.vue'
import { useCanvasFiles } from './files/canvasFiles'

/** What is done to the scene as a whole, and how it is looked at. */
const emit = defineEmits<{ match: [canvas: CanvasName | 'both']; dressing: []; seen: [] }>()
const store = useShowStore()
const workbench = useWorkbenchStore()
const files = useCanvasFiles()

const matches = [
  { canvas: 'vertical', label: 'Match vertical to landscape' },
  { canvas: 'landscape', label: 'Match landscape to vertical' },
  { canvas: 'both', label: 'Arrange both from the sources' },
] as const
const fileActions = [
  { label: 'Landscape as PNG', run: () => files.savePng('landscape') },
  { label: 'Vertical as PNG', run: () => files.savePng('vertical') },
  { label: 'Landscape as SVG', run: () => files.saveSvg('landscape') },
  { label: 'Vertical as SVG', run: () => files.saveSvg('vertical') },
  { label: 'Place an SVG on landscape …', run: () => files.openSvg('landscape') },
  { label: 'Place an SVG on vertical …', run: () => files.openSvg('vertical') },
] as const
const itemClass = (active: boolean): string =>
  `block w-full rounded px-2 py-1.5 text-left ${active ? 'bg-leaf' : ''}`
</script>

<template>
  <div class="@container">
    <div class="flex flex-wrap items-center gap-1.5" role="toolbar" aria-label="Canvases">
      <AddSourcePanel />
      <Menu as="div" class="relative">
        <MenuButton class="button"><Sparkles class="size-4" /> Match</MenuButton>
        <MenuItems class="card absolute left-0 z-30 mt-1 w-64 p-1 shadow-lg">
          <MenuItem v-for="item in matches" :key="item.canvas" v-slot="{ active }">
            <button type="button" :class="itemClass(active)" @click="emit('match', item.canvas)">
              {{ item.label }}
            </button>
          </MenuItem>
        </MenuItems>
      </Menu>
      <button
        type="button"
        class="button"
        :aria-label="`Dressing: ${store.show.dressing.name}`"
        title="Dressing"
        @click="emit('dressing')"
      >
        <Shirt class="size-4" />
        <span class="max-w-28 truncate">{{ store.show.dressing.name }}</span>
      </button>
      <button
        type="button"
        class="button"
        aria-label="As viewers see it"
        title="As viewers see it"
        @click="emit('seen')"
      >
        <Telescope class="size-4" /> Seen
      </button>
      <a
        class="button px-1.5!"
        title="The on-air window draws what goes out"
        :href="`/shows/${store.id}/on-air`"
        target="_blank"
        rel="opener"
        aria-label="On air, in a window of its own"
        ><MonitorPlay class="size-4" /><span class="hidden @min-[46rem]:inline">On air</span></a
      >
      <button
        type="button"
        class="button px-1.5!"
        aria-label="Snap to edges, centres and other sources"
        title="Snap"
        :aria-pressed="workbench.snaps"
        @click="workbench.snaps = !workbench.snaps"
      >
        <Magnet class="size-4" /><span class="hidden @min-[46rem]:inline">Snap</span>
      </button>
      <button
        type="button"
        class="button px-1.5!"
        aria-label="Show the safe areas"
        title="Safe areas (EBU R 95)"
        :aria-pressed="workbench.showsSafeAreas"
        @click="workbench.showsSafeAreas = !workbench.showsSafeAreas"
      >
        <Frame class="size-4" /><span class="hidden @min-[46rem]:inline">Safe areas</span>
      </button>
      <button
        type="button"
        class="button px-1.5!"
        :aria-label="isPlaying ? 'Hold moving sources still' : 'Let moving sources move'"
        :title="isPlaying ? 'Hold still' : 'Let it move'"
        :aria-pressed="isPlaying"
        @click="setPlaying(!isPlaying)"
      >
        <Pause v-if="isPlaying" class="size-4" />
        <Play v-else class="size-4" />
        <span class="hidden @min-[46rem]:inline">{{ isPlaying ? 'Hold still' : 'Move' }}</span>
      </button>
      <Menu as="div" class="relative">
        <MenuButton
          class="button px-1.5!"
          aria-label="Pictures of the canvases"
          title="PNG and SVG"
        >
          <FileImage class="size-4" /><span class="hidden @min-[46rem]:inline">PNG, SVG</span>
        </MenuButton>
        <MenuItems class="card absolute right-0 z-30 mt-1 w-60 p-1 shadow-lg">
          <MenuItem v-for="item in fileActions" :key="item.label" v-slot="{ active }">
            <button type="button" :class="itemClass(active)" @click="item.run()">
              {{ item.label }}
            </button>
          </MenuItem>
        </MenuItems>
      </Menu>
    </div>
  </div>
</template>
