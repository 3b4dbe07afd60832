<script setup lang="ts">
import { appearsOn, screenFor, viewsOf, zoneBox } from '@green-mantle/core/canvas'
import {
  type CanvasName,
  layersOnAir,
  type ViewerScreen,
  type ViewingMode,
} from '@green-mantle/core/show'
import { sizeInWords } from '@green-mantle/core/words'
import { computed, ref } from 'vue'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import PlacedPicture from '../scenes/PlacedPicture.vue'

/** The scene as viewers of each destination have it before them: bars, scale and what the app draws over it. */
defineEmits<{ close: [] }>()
const store = useShowStore()
const selection = useSelectionStore()

const inUse = computed(() => store.show.destinations.filter(({ on }) => on))
const destinationId = ref(
  (inUse.value.find(({ canvas }) => canvas === 'vertical') ?? inUse.value[0])?.id ?? '',
)
const destination = computed(() => inUse.value.find(({ id }) => id === destinationId.value))
const choices = computed(() => inUse.value.map(({ id, name }) => ({ value: id, label: name })))

interface Seen {
  title: string
  mode: ViewingMode
  viewer: ViewerScreen
}
const seen = computed<Seen[]>(() => {
  if (!destination.value) return []
  return viewsOf(destination.value).map(({ mode, viewer }) => ({
    mode,
    viewer,
    title: mode === 'full screen' ? `full screen on a ${viewer}` : mode,
  }))
})
const canvas = computed<CanvasName>(() => destination.value?.canvas ?? 'landscape')
const size = computed(() => store.show.canvasPair[canvas.value])
const layers = computed(() =>
  layersOnAir(store.show, selection.scene, canvas.value)
    .filter((layer) => layer[canvas.value].shown)
    .toReversed(),
)

function appearing({ mode, viewer }: Seen) {
  return appearsOn(size.value, screenFor(mode, viewer))
}
const zonesOf = (mode: ViewingMode) =>
  (destination.value?.coverZones ?? [])
    .filter((zone) => zone.mode === mode)
    .map((zone) => ({ ...zoneBox(zone, size.value), id: zone.id, name: zone.name }))

const barsInWords = {
  none: 'no bars',
  beside: 'bars beside it',
  'above and below': 'bars above and below',
}
const share = (value: number): string => `${Math.round(value * 100)} %`
</script>

<template>
  <ModalDialog
    title="As viewers see it"
    :description="`${selection.scene.name}, on the screens of each destination in use.`"
    width="wide"
    @close="$emit('close')"
  >
    <p v-if="!destination">No destination is switched on yet.</p>
    <template v-else>
      <SelectField v-model="destinationId" class="w-56" label="Destination" :choices="choices" />
      <ul class="mt-4 flex flex-wrap items-end gap-5">
        <li v-for="item in seen" :key="item.title" class="flex max-w-60 flex-col gap-1">
          <svg
            class="border-edge self-start rounded-md border bg-stage"
            :class="appearing(item).screen.width > appearing(item).screen.height ? 'w-60' : 'h-72'"
            :style="{
              aspectRatio: `${appearing(item).screen.width} / ${appearing(item).screen.height}`,
            }"
            :viewBox="`0 0 ${appearing(item).screen.width} ${appearing(item).screen.height}`"
            role="img"
            :aria-label="`${destination.name}, ${item.title}: ${barsInWords[appearing(item).bars]}, ${share(appearing(item).screenShare)} of the screen`"
          >
            <svg
              v-bind="appearing(item).picture"
              :viewBox="`0 0 ${size.width} ${size.height}`"
              preserveAspectRatio="none"
            >
              <rect :width="size.width" :height="size.height" fill="#0b120e" />
              <template v-for="layer in layers" :key="layer.id">
                <PlacedPicture
                  v-if="selection.sourcesById.get(layer.sourceId)"
                  :placement="layer[canvas]"
                  :source="selection.sourcesById.get(layer.sourceId)!"
                  :dressing="store.show.dressing"
                  :canvas="size"
                />
              </template>
              <g v-for="zone in zonesOf(item.mode)" :key="zone.id">
                <rect
                  :x="zone.x"
                  :y="zone.y"
                  :width="zone.width"
                  :height="zone.height"
                  rx="14"
                  fill="#1f2a23"
                  fill-opacity="0.72"
                />
                <text
                  :x="zone.x + zone.width / 2"
                  :y="zone.y + zone.height / 2"
                  fill="#fffdf6"
                  :font-size="size.height * 0.026"
                  text-anchor="middle"
                  dominant-baseline="middle"
                >
                  {{ zone.name }}
                </text>
              </g>
            </svg>
          </svg>
          <p class="font-semibold">{{ item.title }}</p>
          <p class="text-ink-2 text-xs">
            <span class="number">{{ sizeInWords(appearing(item).screen) }}</span>
            · {{ barsInWords[appearing(item).bars] }} ·
            <span class="number">{{ share(appearing(item).screenShare) }}</span> of the screen
          </p>
        </li>
      </ul>
    </template>
  </ModalDialog>
</template>
