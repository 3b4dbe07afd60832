<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import type { ShowSummary } from '@green-mantle/core/show'
import { wallClockInWords } from '@green-mantle/core/words'
import { Copy, Download, EllipsisVertical, Pencil, Trash2 } from '@lucide/vue'
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import { RouterLink } from 'vue-router'
import PairPicture from '~/components/canvases/scenes/PairPicture.vue'
import StateMark from '~/components/frame/StateMark.vue'

const props = defineProps<{ summary: ShowSummary }>()
const emit = defineEmits<{ duplicate: []; rename: [title: string]; remove: []; file: [] }>()

const sources = computed(() => new Map(props.summary.sources.map((source) => [source.id, source])))
const when = computed(() => wallClockInWords(props.summary.startsAt, 'long'))
const on = computed(() => props.summary.destinations.filter((destination) => destination.on))
const mark = computed(
  () =>
    (
      {
        fits: 'settled',
        attention: 'attention',
        fails: 'fails',
        'nothing yet': 'not begun',
      } as const
    )[props.summary.verdict.state],
)

const isRenaming = ref(false)
const title = ref('')
const field = useTemplateRef<HTMLInputElement>('field')

async function startRenaming(): Promise<void> {
  title.value = props.summary.title
  isRenaming.value = true
  await nextTick()
  // The menu gives focus back as it closes.
  requestAnimationFrame(() => field.value?.select())
}

function rename(): void {
  if (!isRenaming.value) return
  isRenaming.value = false
  const wanted = title.value.trim()
  if (wanted && wanted !== props.summary.title) emit('rename', wanted)
}

const actions = [
  { label: 'Rename', icon: Pencil, run: startRenaming },
  { label: 'Duplicate', icon: Copy, run: () => emit('duplicate') },
  { label: 'Save as a file', icon: Download, run: () => emit('file') },
  { label: 'Delete', icon: Trash2, run: () => emit('remove') },
]
</script>

<template>
  <li class="card hover:border-moss relative flex flex-col gap-2 p-3" :data-show="summary.title">
    <PairPicture
      class="h-28"
      :layers="summary.layers"
      :dressing="summary.dressing"
      :sources="sources"
      :canvas-pair="summary.canvasPair"
    />
    <input
      v-if="isRenaming"
      ref="field"
      v-model="title"
      class="field font-title text-lg"
      aria-label="Title of the show"
      maxlength="200"
      @keydown.enter="rename"
      @keydown.escape="isRenaming = $event.defaultPrevented"
      @blur="rename"
    />
    <h2 v-else class="text-lg">
      <RouterLink
        :to="`/shows/${summary.id}/canvases`"
        class="block truncate pr-8 after:absolute after:inset-0 after:rounded-lg"
        :title="summary.title"
        >{{ summary.title }}</RouterLink
      >
    </h2>
    <p class="text-ink-2 text-xs">{{ when }}</p>
    <p class="flex min-h-6 flex-wrap gap-1 text-xs">
      <span
        v-for="destination in on"
        :key="destination.name"
        class="max-w-40 truncate rounded-full px-2 py-0.5"
        :class="
          destination.canvas === 'landscape'
            ? 'bg-river-wash text-river'
            : 'bg-foxglove-wash text-foxglove'
        "
        >{{ destination.name }}</span
      >
      <span v-if="on.length === 0" class="text-ink-2">no destination on</span>
    </p>
    <p class="mt-auto flex items-center gap-2 pr-9">
      <StateMark :state="mark" />{{ summary.verdict.sentence }}
    </p>
    <Menu as="div" class="absolute right-2 bottom-2">
      <MenuButton class="button button-quiet" :aria-label="`What to do with ${summary.title}`">
        <EllipsisVertical class="size-4" />
      </MenuButton>
      <MenuItems class="card absolute right-0 bottom-full z-20 mb-1 w-44 p-1 shadow-lg">
        <MenuItem v-for="action in actions" :key="action.label" v-slot="{ active }">
          <button
            type="button"
            class="flex w-full items-center gap-2 rounded px-2 py-1.5 text-left"
            :class="active ? 'bg-leaf' : ''"
            @click="action.run()"
          >
            <component :is="action.icon" class="size-4" /> {{ action.label }}
          </button>
        </MenuItem>
      </MenuItems>
    </Menu>
  </li>
</template>
