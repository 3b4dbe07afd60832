<script setup lang="ts">
import { type Appearance, type CanvasName, canvasNames, type Trim } from '@green-mantle/core/show'
import { degreeUnits, percentUnits, pixelUnits, sizeInWords } from '@green-mantle/core/words'
import {
  AlignHorizontalJustifyCenter,
  AlignVerticalJustifyCenter,
  ArrowDownToLine,
  ArrowUpToLine,
  Crosshair,
  FlipHorizontal2,
  FlipVertical2,
  Maximize,
  Minimize,
  RotateCw,
  Trash2,
} from '@lucide/vue'
import { computed } from 'vue'
import NumberField from '~/components/fields/NumberField.vue'
import TextField from '~/components/fields/TextField.vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { usePlacing } from './placing'
import { sourceIcons } from './sourceIcons'

const store = useShowStore()
const selection = useSelectionStore()
const placing = usePlacing()

const chosen = computed(() => selection.selected)
const native = computed(() => ({
  width: chosen.value?.source.nativeWidth ?? 1,
  height: chosen.value?.source.nativeHeight ?? 1,
}))

const boxFields = [
  { key: 'x', label: 'X', least: -32768 },
  { key: 'y', label: 'Y', least: -32768 },
  { key: 'width', label: 'W', least: 1 },
  { key: 'height', label: 'H', least: 1 },
] as const
const edges = [
  { key: 'left', label: 'Left' },
  { key: 'top', label: 'Top' },
  { key: 'right', label: 'Right' },
  { key: 'bottom', label: 'Bottom' },
] as const

const frameRateNote = computed(() => {
  const own = chosen.value?.source.nativeFramesPerSecond
  const shared = store.show.canvasPair.framesPerSecond
  if (own === null || own === undefined) return 'a still'
  return own < shared ? `at ${own}; the show runs at ${shared}` : `at ${own}`
})

function set(
  canvas: CanvasName,
  key: 'x' | 'y' | 'width' | 'height' | 'turnDegrees',
  value: number | null,
): void {
  const layer = chosen.value?.layer
  if (layer && value !== null) placing.setBox(layer.id, canvas, { [key]: value }, 'Place')
}

function setTrim(canvas: CanvasName, edge: keyof Trim, value: number | null): void {
  const layer = chosen.value?.layer
  if (layer && value !== null) placing.setTrim(canvas, { ...layer[canvas].trim, [edge]: value })
}

function rename(name: string): void {
  editSource('Rename', (source) => {
    source.name = name
  })
}

function editSource(
  label: string,
  recipe: (source: (typeof store.show)['sources'][number]) => void,
): void {
  const id = chosen.value?.source.id
  store.edit(`${label} ${chosen.value?.source.name}`, (draft) => {
    const source = draft.sources.find((candidate) => candidate.id === id)
    if (source) recipe(source)
  })
}

function setAppearance(
  changes: Partial<Record<'text' | 'label' | 'colour' | 'percent', string | number>>,
): void {
  editSource('Change', (source) => {
    source.appearance = { ...source.appearance, ...changes } as Appearance
  })
}

const actions = [
  {
    label: 'Centre across',
    icon: AlignHorizontalJustifyCenter,
    run: () => placing.centre('across'),
  },
  { label: 'Centre down', icon: AlignVerticalJustifyCenter, run: () => placing.centre('down') },
  { label: 'Centre both', icon: Crosshair, run: () => placing.centre('both') },
  { label: 'Fit', icon: Minimize, run: () => placing.scale('fit') },
  { label: 'Fill', icon: Maximize, run: () => placing.scale('fill') },
  { label: 'Flip across', icon: FlipHorizontal2, run: () => placing.flip('across') },
  { label: 'Flip down', icon: FlipVertical2, run: () => placing.flip('down') },
  { label: 'Turn by a quarter', icon: RotateCw, run: () => placing.turn() },
] as const
const colours: Record<CanvasName, string> = { landscape: 'text-river', vertical: 'text-foxglove' }
const names: Record<CanvasName, string> = { landscape: 'Landscape', vertical: 'Vertical' }
</script>

<template>
  <aside aria-label="The chosen source" class="border-rule bg-sheet overflow-y-auto border-l p-3.5">
    <template v-if="chosen">
      <div class="flex items-center gap-2">
        <component :is="sourceIcons[chosen.source.kind]" class="size-4.5 shrink-0" />
        <h2 class="truncate text-lg" :title="chosen.source.name">{{ chosen.source.name }}</h2>
      </div>
      <p class="text-ink-2 mt-0.5 text-xs">
        gives <span class="number">{{ sizeInWords(native) }}</span> {{ frameRateNote }}
      </p>

      <div class="border-rule mt-3 border-t pt-3">
        <div
          class="grid grid-cols-[3.2rem_1fr_1fr] items-center gap-x-2 gap-y-1.5"
          role="group"
          aria-label="Place and size"
        >
          <span />
          <span
            v-for="canvas in canvasNames"
            :key="canvas"
            class="text-xs font-semibold"
            :class="colours[canvas]"
            >{{ names[canvas] }}</span
          >
          <template v-for="field in boxFields" :key="field.key">
            <span aria-hidden="true">{{ field.label }}</span>
            <NumberField
              v-for="canvas in canvasNames"
              :key="canvas"
              hide-label
              :label="`${field.label} on ${canvas}, px`"
              :model-value="chosen.layer[canvas][field.key]"
              :units="pixelUnits"
              :least="field.least"
              :most="32768"
              :disabled="chosen.layer[canvas].locked"
              @update:model-value="set(canvas, field.key, $event)"
            />
          </template>
          <span aria-hidden="true">Turn</span>
          <NumberField
            v-for="canvas in canvasNames"
            :key="canvas"
            hide-label
            :label="`Turn on ${canvas}, degrees`"
            unit="°"
            :decimals="1"
            :model-value="chosen.layer[canvas].turnDegrees"
            :units="degreeUnits"
            :least="-360"
            :most="360"
            :disabled="chosen.layer[canvas].locked"
            @update:model-value="set(canvas, 'turnDegrees', $event)"
          />
        </div>
      </div>

      <div class="border-rule mt-3 border-t pt-2.5">
        <h3 class="font-text mb-1.5 text-sm font-semibold">
          Place on <span :class="colours[selection.canvas]">{{ selection.canvas }}</span>
        </h3>
        <div class="flex flex-wrap gap-1">
          <button
            v-for="action in actions"
            :key="action.label"
            type="button"
            class="button px-1.5!"
            :aria-label="action.label"
            :title="action.label"
            :disabled="chosen.layer[selection.canvas].locked"
            @click="action.run()"
          >
            <component :is="action.icon" class="size-4" />
          </button>
          <button
            type="button"
            class="button px-1.5!"
            aria-label="Bring forward"
            title="Bring forward"
            :disabled="chosen.index === 0"
            @click="placing.moveChosenInOrder(-1)"
          >
            <ArrowUpToLine class="size-4" />
          </button>
          <button
            type="button"
            class="button px-1.5!"
            aria-label="Send backward"
            title="Send backward"
            :disabled="chosen.index === selection.scene.layers.length - 1"
            @click="placing.moveChosenInOrder(1)"
          >
            <ArrowDownToLine class="size-4" />
          </button>
        </div>
      </div>

      <div
        v-if="chosen.source.appearance.type === 'drawing'"
        class="border-rule mt-3 border-t pt-2.5"
      >
        <h3 class="font-text mb-1.5 text-sm font-semibold">Trim, in its own pixels</h3>
        <div class="grid grid-cols-[3.2rem_1fr_1fr] items-center gap-x-2 gap-y-1.5">
          <template v-for="edge in edges" :key="edge.key">
            <span aria-hidden="true">{{ edge.label }}</span>
            <NumberField
              v-for="canvas in canvasNames"
              :key="canvas"
              hide-label
              :label="`${edge.label} trim on ${canvas}, px`"
              :model-value="chosen.layer[canvas].trim[edge.key]"
              :units="pixelUnits"
              :least="0"
              :most="16384"
              :disabled="chosen.layer[canvas].locked"
              @update:model-value="setTrim(canvas, edge.key, $event)"
            />
          </template>
        </div>
      </div>

      <div class="border-rule mt-3 flex flex-col gap-2 border-t pt-2.5">
        <TextField
          :model-value="chosen.source.name"
          label="Name"
          required
          @update:model-value="rename"
        />
        <template v-if="chosen.source.appearance.type === 'goal bar'">
          <TextField
            :model-value="chosen.source.appearance.label"
            label="Label"
            @update:model-value="setAppearance({ label: $event })"
          />
          <NumberField
            :model-value="chosen.source.appearance.percent"
            label="Reached"
            unit="%"
            :units="percentUnits"
            :least="0"
            :most="100"
            @update:model-value="setAppearance({ percent: $event ?? 0 })"
          />
        </template>
        <TextField
          v-if="
            chosen.source.appearance.type === 'text' || chosen.source.appearance.type === 'alerts'
          "
          :model-value="chosen.source.appearance.text"
          label="Words"
          @update:model-value="setAppearance({ text: $event })"
        />
        <TextField
          v-if="
            chosen.source.appearance.type === 'text' || chosen.source.appearance.type === 'colour'
          "
          :model-value="chosen.source.appearance.colour"
          label="Colour"
          type="color"
          @update:model-value="setAppearance({ colour: $event })"
        />
        <button type="button" class="button self-start" @click="placing.removeChosen()">
          <Trash2 class="size-4" /> Remove from this scene
        </button>
      </div>
    </template>
    <p v-else class="text-ink-2">
      Choose a source on a canvas or in the list to see and type where it stands.
    </p>
  </aside>
</template>
