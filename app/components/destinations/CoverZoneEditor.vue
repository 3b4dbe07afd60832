<script setup lang="ts">
import { viewsOf } from '@green-mantle/core/canvas'
import {
  type CoverZone,
  type Destination,
  layersOnAir,
  newCoverZone,
  type ViewingMode,
  withZoneSide,
  zoneBetween,
  type ZoneSide,
} from '@green-mantle/core/show'
import { shareUnits } from '@green-mantle/core/words'
import { Plus, Trash2 } from '@lucide/vue'
import { useEventListener } from '@vueuse/core'
import { nanoid } from 'nanoid'
import { computed, ref, useTemplateRef } from 'vue'
import PairPicture from '~/components/canvases/scenes/PairPicture.vue'
import NumberField from '~/components/fields/NumberField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useDestinationEditing } from './destinationEditing'

/** What the destination's viewing app draws over the picture, mode by mode: drawn over a scene, or typed. */
const props = defineProps<{ destination: Destination }>()
const store = useShowStore()
const selection = useSelectionStore()
const editing = useDestinationEditing()
const picture = useTemplateRef<SVGSVGElement>('picture')

const modes = computed(() => [...new Set(viewsOf(props.destination).map(({ mode }) => mode))])
const wanted = ref<ViewingMode>()
const mode = computed(
  () =>
    modes.value.find((candidate) => candidate === wanted.value) ?? (modes.value[0] as ViewingMode),
)
const modeChoices = computed(() => modes.value.map((value) => ({ value, label: value })))
const zones = computed(() =>
  props.destination.coverZones.filter((zone) => zone.mode === mode.value),
)
const size = computed(() => store.show.canvasPair[props.destination.canvas])
const layers = computed(() => ({
  landscape: selection.scene.layers,
  vertical: layersOnAir(store.show, selection.scene, 'vertical'),
}))
/** In per cent of the picture. */
const percent = shareUnits(100)
const sides = [
  { side: 'x', label: 'X' },
  { side: 'y', label: 'Y' },
  { side: 'width', label: 'W' },
  { side: 'height', label: 'H' },
] as const

function change(label: string, recipe: (zones: CoverZone[]) => CoverZone[]): void {
  editing.change(props.destination.id, label, (destination) => {
    destination.coverZones = recipe(destination.coverZones)
  })
}

function changeZone(id: string, changes: Partial<CoverZone>): void {
  change('Change a cover zone of', (all) =>
    all.map((zone) => (zone.id === id ? { ...zone, ...changes } : zone)),
  )
}

const setSide = (zone: CoverZone, side: ZoneSide, share: number): void =>
  changeZone(zone.id, withZoneSide(zone, side, share))
const add = (box: Partial<CoverZone> = {}): void =>
  change('Add a cover zone to', (all) => [
    ...all,
    { ...newCoverZone(nanoid(12), mode.value), ...box },
  ])
const remove = (id: string): void =>
  change('Remove a cover zone of', (all) => all.filter((zone) => zone.id !== id))

const drawn = ref<Pick<CoverZone, ZoneSide>>()

function pointOf(event: MouseEvent): { x: number; y: number } {
  const box = picture.value?.getBoundingClientRect()
  return {
    x: (event.clientX - (box?.left ?? 0)) / (box?.width ?? 1),
    y: (event.clientY - (box?.top ?? 0)) / (box?.height ?? 1),
  }
}

/** A zone smaller than this is a slip of the hand. */
const smallestShare = 0.01

function startDrawing(event: MouseEvent): void {
  const from = pointOf(event)
  const stop = useEventListener(window, 'mousemove', (now: MouseEvent) => {
    drawn.value = zoneBetween(from, pointOf(now))
  })
  useEventListener(
    window,
    'mouseup',
    () => {
      stop()
      const box = drawn.value
      drawn.value = undefined
      if (box && box.width > smallestShare && box.height > smallestShare) add(box)
    },
    { once: true },
  )
}
</script>

<template>
  <div class="flex flex-col gap-2">
    <SelectField
      label="While it is watched"
      :model-value="mode"
      :choices="modeChoices"
      @update:model-value="wanted = $event"
    />
    <div class="flex gap-3">
      <div class="relative self-start" :class="destination.canvas === 'vertical' ? 'h-56' : 'h-28'">
        <PairPicture
          class="h-full"
          :only="destination.canvas"
          :layers="layers"
          :sources="selection.sourcesById"
          :canvas-pair="store.show.canvasPair"
          :dressing="store.show.dressing"
        />
        <svg
          ref="picture"
          class="absolute inset-0 size-full cursor-crosshair"
          viewBox="0 0 100 100"
          preserveAspectRatio="none"
          aria-hidden="true"
          @mousedown.prevent="startDrawing"
        >
          <rect
            v-for="(zone, index) in [...zones, ...(drawn ? [drawn] : [])]"
            :key="index"
            :x="`${zone.x * 100}%`"
            :y="`${zone.y * 100}%`"
            :width="`${zone.width * 100}%`"
            :height="`${zone.height * 100}%`"
            class="fill-foxglove"
            fill-opacity="0.5"
            stroke="#fffdf6"
            stroke-width="1"
            vector-effect="non-scaling-stroke"
          />
        </svg>
      </div>
      <p class="text-ink-2 min-w-0 text-xs">
        What its app draws over {{ selection.scene.name }} ({{ size.width }}×{{ size.height }}).
        Drag over the picture to draw a zone, or add one and type its sides in per cent.
      </p>
    </div>
    <ul class="flex flex-col gap-2">
      <li
        v-for="zone in zones"
        :key="zone.id"
        class="grid grid-cols-[minmax(0,1.6fr)_repeat(4,minmax(0,1fr))_auto] items-end gap-1"
      >
        <TextField
          label="Zone"
          required
          :model-value="zone.name"
          @update:model-value="changeZone(zone.id, { name: $event })"
        />
        <NumberField
          v-for="{ side, label } in sides"
          :key="side"
          :label="`${label} %`"
          :units="percent"
          :min="0"
          :max="100"
          :decimals="1"
          :model-value="zone[side] * 100"
          @update:model-value="setSide(zone, side, $event / 100)"
        />
        <button
          type="button"
          class="button px-1.5!"
          :aria-label="`Remove the zone ${zone.name}`"
          @click="remove(zone.id)"
        >
          <Trash2 class="size-4" />
        </button>
      </li>
    </ul>
    <button type="button" class="button self-start" @click="add()">
      <Plus class="size-4" /> Cover zone
    </button>
  </div>
</template>
