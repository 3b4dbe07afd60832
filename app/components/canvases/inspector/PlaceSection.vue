<script setup lang="ts">
import { type CanvasName, canvasNames, type Placement, onBoth } from '@green-mantle/core/show'
import { degreeUnits, pixelUnits, shareUnits } from '@green-mantle/core/words'
import {
  AlignCenterHorizontal,
  AlignCenterVertical,
  AlignEndHorizontal,
  AlignEndVertical,
  AlignHorizontalDistributeCenter,
  AlignHorizontalJustifyCenter,
  AlignStartHorizontal,
  AlignStartVertical,
  AlignVerticalDistributeCenter,
  AlignVerticalJustifyCenter,
  ArrowDownToLine,
  ArrowUpToLine,
  Crosshair,
  Equal,
  Expand,
  FlipHorizontal2,
  FlipVertical2,
  Maximize,
  Minimize,
  Proportions,
  RotateCw,
  Columns2,
} from '@lucide/vue'
import { computed } from 'vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useLayers } from '../editing/layers'
import { usePlacing } from '../editing/placing'
import PairOfNumbers from './PairOfNumbers.vue'

const store = useShowStore()
const selection = useSelectionStore()
const placing = usePlacing()
const layers = useLayers()

const chosen = computed(() => selection.selected)
const disabled = computed(() => ({
  landscape: chosen.value?.layer.landscape.locked ?? true,
  vertical: selection.sharesVertical || (chosen.value?.layer.vertical.locked ?? true),
}))

type Field = 'x' | 'y' | 'width' | 'height' | 'turnDegrees'
const boxFields = [
  { key: 'x', label: 'X', min: -32768, along: 'width' },
  { key: 'y', label: 'Y', min: -32768, along: 'height' },
  { key: 'width', label: 'W', min: 1, along: 'width' },
  { key: 'height', label: 'H', min: 1, along: 'height' },
] as const

const valuesOf = (key: keyof Placement) =>
  onBoth((canvas) => (chosen.value?.layer[canvas][key] ?? 0) as number)
/** Pixels, or per cent of the canvas's side. */
const unitsAlong = (side: 'width' | 'height') =>
  onBoth((canvas) => ({ ...pixelUnits, ...shareUnits(store.show.canvasPair[canvas][side]) }))
const turnUnits = onBoth(() => degreeUnits)

function set(canvas: CanvasName, key: Field, value: number | null): void {
  if (value !== null) placing.setBox(canvas, key, value)
}

const actions = [
  {
    label: 'Centre across',
    icon: AlignHorizontalJustifyCenter,
    run: () => placing.centre('across'),
  },
  { label: 'Centre down', icon: AlignVerticalJustifyCenter, run: () => placing.centre('down') },
  { label: 'Centre both', icon: Crosshair, run: () => placing.centre('both') },
  { label: 'Fit', word: 'Fit', icon: Minimize, run: () => placing.scale('fit') },
  { label: 'Fill', word: 'Fill', icon: Maximize, run: () => placing.scale('fill') },
  { label: 'Stretch', word: 'Stretch', icon: Expand, run: () => placing.stretch() },
  {
    label: 'Own proportions',
    word: 'Own proportions',
    icon: Proportions,
    run: () => placing.restoreProportion(),
  },
  {
    label: 'Same as on the other canvas',
    word: 'Same',
    icon: Columns2,
    run: () => placing.sameAsOther(),
  },
  { label: 'Flip across', icon: FlipHorizontal2, run: () => placing.flip('across') },
  { label: 'Flip down', icon: FlipVertical2, run: () => placing.flip('down') },
  { label: 'Turn by a quarter', icon: RotateCw, run: () => placing.turn() },
] as const
const togetherActions = [
  { label: 'Align left', icon: AlignStartVertical, run: () => placing.align('left') },
  { label: 'Align centres', icon: AlignCenterVertical, run: () => placing.align('centre') },
  { label: 'Align right', icon: AlignEndVertical, run: () => placing.align('right') },
  { label: 'Align top', icon: AlignStartHorizontal, run: () => placing.align('top') },
  { label: 'Align middles', icon: AlignCenterHorizontal, run: () => placing.align('middle') },
  { label: 'Align bottom', icon: AlignEndHorizontal, run: () => placing.align('bottom') },
  {
    label: 'Distribute across',
    icon: AlignHorizontalDistributeCenter,
    run: () => placing.distribute('across'),
    min: 3,
  },
  {
    label: 'Distribute down',
    icon: AlignVerticalDistributeCenter,
    run: () => placing.distribute('down'),
    min: 3,
  },
  { label: 'Equal size', icon: Equal, run: () => placing.equalSize(), min: 2 },
] as const

const freeCount = computed(() => placing.free(selection.canvas).length)
const colours: Record<CanvasName, string> = { landscape: 'text-river', vertical: 'text-foxglove' }
const names: Record<CanvasName, string> = { landscape: 'Landscape', vertical: 'Vertical' }
</script>

<template>
  <div v-if="chosen" class="border-rule mt-3 border-t pt-3">
    <div id="place-numbers" class="flex flex-col gap-1.5" role="group" aria-label="Place and size">
      <div class="grid grid-cols-[3.2rem_1fr_1fr] gap-x-2">
        <span />
        <span
          v-for="canvas in canvasNames"
          :key="canvas"
          class="text-xs font-semibold"
          :class="colours[canvas]"
          >{{ names[canvas] }}</span
        >
      </div>
      <PairOfNumbers
        v-for="field in boxFields"
        :key="field.key"
        :label="field.label"
        unit-name="px"
        :values="valuesOf(field.key)"
        :units="unitsAlong(field.along)"
        :disabled="disabled"
        :min="field.min"
        :max="32768"
        @change="(canvas, value) => set(canvas, field.key, value)"
      />
      <PairOfNumbers
        label="Turn"
        unit-name="degrees"
        unit="°"
        :decimals="1"
        :values="valuesOf('turnDegrees')"
        :units="turnUnits"
        :disabled="disabled"
        :min="-360"
        :max="360"
        @change="(canvas, value) => set(canvas, 'turnDegrees', value)"
      />
    </div>
    <h3 class="font-text mt-3 mb-1.5 text-sm font-semibold">
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
        :disabled="freeCount === 0"
        @click="action.run()"
      >
        <component :is="action.icon" class="size-4" />
        <span v-if="'word' in action" class="text-xs">{{ action.word }}</span>
      </button>
      <button
        type="button"
        class="button px-1.5!"
        aria-label="Bring forward"
        title="Bring forward"
        :disabled="chosen.index === 0"
        @click="layers.moveChosenInOrder(-1)"
      >
        <ArrowUpToLine class="size-4" />
      </button>
      <button
        type="button"
        class="button px-1.5!"
        aria-label="Send backward"
        title="Send backward"
        :disabled="chosen.index === selection.scene.layers.length - 1"
        @click="layers.moveChosenInOrder(1)"
      >
        <ArrowDownToLine class="size-4" />
      </button>
    </div>
    <div class="mt-2 flex flex-wrap gap-1" role="group" aria-label="Align and distribute">
      <button
        v-for="action in togetherActions"
        :key="action.label"
        type="button"
        class="button px-1.5!"
        :aria-label="action.label"
        :title="freeCount > 1 ? action.label : `${action.label} with the canvas`"
        :disabled="freeCount < ('min' in action ? action.min : 1)"
        @click="action.run()"
      >
        <component :is="action.icon" class="size-4" />
      </button>
    </div>
  </div>
</template>
