<script setup lang="ts">
import { type Dressing, labelPlaces, ourDressings } from '@green-mantle/core/show'
import { pixelUnits } from '@green-mantle/core/words'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import NumberField from '~/components/fields/NumberField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import PairPicture from '../scenes/PairPicture.vue'
import { useDressingEditing } from './dressingEditing'
import { useDressingFiles } from './dressingFiles'

/** One look for all placements of the show on both canvases. */
defineEmits<{ close: [] }>()
const store = useShowStore()
const { choose, change } = useDressingEditing()
const selection = useSelectionStore()
const files = useDressingFiles()

const placeChoices = labelPlaces.map((value) => ({ value, label: value }))
const pair = () => ({ landscape: selection.scene.layers, vertical: selection.layersOn('vertical') })

const colours = [
  {
    label: 'Frame colour',
    get: (d: Dressing) => d.frame.colour,
    set: (d: Dressing, c: string) => (d.frame.colour = c),
  },
  {
    label: 'Label words',
    get: (d: Dressing) => d.label.textColour,
    set: (d: Dressing, c: string) => (d.label.textColour = c),
  },
  {
    label: 'Label and caption band',
    get: (d: Dressing) => d.label.bandColour,
    set: (d: Dressing, c: string) => (d.label.bandColour = c),
  },
  {
    label: 'Goal words',
    get: (d: Dressing) => d.goalBar.textColour,
    set: (d: Dressing, c: string) => (d.goalBar.textColour = c),
  },
  {
    label: 'Goal band',
    get: (d: Dressing) => d.goalBar.bandColour,
    set: (d: Dressing, c: string) => (d.goalBar.bandColour = c),
  },
  {
    label: 'Goal still open',
    get: (d: Dressing) => d.goalBar.trackColour,
    set: (d: Dressing, c: string) => (d.goalBar.trackColour = c),
  },
  {
    label: 'Goal reached',
    get: (d: Dressing) => d.goalBar.filledColour,
    set: (d: Dressing, c: string) => (d.goalBar.filledColour = c),
  },
  {
    label: 'Alert words',
    get: (d: Dressing) => d.alerts.textColour,
    set: (d: Dressing, c: string) => (d.alerts.textColour = c),
  },
  {
    label: 'Alert band',
    get: (d: Dressing) => d.alerts.bandColour,
    set: (d: Dressing, c: string) => (d.alerts.bandColour = c),
  },
] as const
</script>

<template>
  <ModalDialog
    title="Dressing"
    description="One look for the whole show, on both canvases. A placement can go without it."
    width="wide"
    @close="$emit('close')"
  >
    <ul class="grid grid-cols-4 gap-2">
      <li v-for="dressing in ourDressings" :key="dressing.name">
        <button
          type="button"
          class="w-full rounded-lg border p-1.5 text-left"
          :class="
            dressing.name === store.show.dressing.name ? 'border-moss bg-leaf' : 'border-rule'
          "
          :aria-pressed="dressing.name === store.show.dressing.name"
          @click="choose(dressing)"
        >
          <PairPicture
            class="h-16"
            :layers="pair()"
            :sources="selection.sourcesById"
            :canvas-pair="store.show.canvasPair"
            :dressing="dressing"
          />
          <span class="mt-1 block">{{ dressing.name }}</span>
        </button>
      </li>
    </ul>
    <div class="border-rule mt-4 grid grid-cols-3 gap-x-4 gap-y-3 border-t pt-3">
      <TextField
        label="Name"
        required
        :model-value="store.show.dressing.name"
        @update:model-value="(name) => change('Name', (dressing) => (dressing.name = name))"
      />
      <NumberField
        label="Frame"
        unit="px"
        :units="pixelUnits"
        :min="0"
        :max="60"
        :model-value="store.show.dressing.frame.widthPixels"
        @update:model-value="
          (pixels) => change('Frame', (dressing) => (dressing.frame.widthPixels = pixels ?? 0))
        "
      />
      <NumberField
        label="Corners"
        unit="px"
        :units="pixelUnits"
        :min="0"
        :max="300"
        :model-value="store.show.dressing.cornerRadiusPixels"
        @update:model-value="
          (pixels) => change('Corners', (dressing) => (dressing.cornerRadiusPixels = pixels ?? 0))
        "
      />
      <SelectField
        label="Names of cameras and guests"
        :model-value="store.show.dressing.label.place"
        :choices="placeChoices"
        @update:model-value="
          (place) => change('Label', (dressing) => (dressing.label.place = place))
        "
      />
      <NumberField
        label="Label size"
        unit="px"
        :units="pixelUnits"
        :min="12"
        :max="120"
        :model-value="store.show.dressing.label.sizePixels"
        @update:model-value="
          (pixels) => change('Label size', (dressing) => (dressing.label.sizePixels = pixels ?? 30))
        "
      />
      <span />
      <TextField
        v-for="colour in colours"
        :key="colour.label"
        type="color"
        :label="colour.label"
        :model-value="colour.get(store.show.dressing)"
        @update:model-value="
          (value) => change(colour.label, (dressing) => colour.set(dressing, value))
        "
      />
    </div>
    <p class="text-ink-2 mt-2 text-xs">
      Pixels are those of a canvas whose shorter side is 1080; other canvases scale them.
    </p>
    <div class="mt-3 flex gap-2">
      <button type="button" class="button" @click="files.save()">Save as a file</button>
      <button type="button" class="button" @click="files.open()">Open a file …</button>
    </div>
  </ModalDialog>
</template>
