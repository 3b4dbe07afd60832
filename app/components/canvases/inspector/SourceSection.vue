<script setup lang="ts">
import { textFonts, textWeights } from '@green-mantle/core/show'
import { pixelUnits } from '@green-mantle/core/words'
import { Copy, FileInput, Trash2 } from '@lucide/vue'
import { computed } from 'vue'
import NumberField from '~/components/fields/NumberField.vue'
import QuantityField from '~/components/fields/QuantityField.vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import { useSelectionStore } from '~/stores/selection'
import { useLayers } from '../editing/layers'
import { useOwnFiles } from '../editing/ownFiles'
import { useSources } from '../editing/sources'
import LiveButtons from './LiveButtons.vue'

const selection = useSelectionStore()
const sources = useSources()
const layers = useLayers()
const ownFiles = useOwnFiles()

const source = computed(() => selection.selected?.source)
const appearance = computed(() => source.value?.appearance)
const fontChoices = textFonts.map((value) => ({ value, label: value }))
const weightNames = { 400: 'regular', 600: 'semibold', 700: 'bold' } as const
const weightChoices = textWeights.map((value) => ({ value, label: weightNames[value] }))

const set = (changes: Record<string, string | number | boolean>): void => {
  if (source.value) sources.setAppearance(source.value.id, changes)
}
function rename(name: string): void {
  if (source.value)
    sources.edit(source.value.id, 'Rename', (draft) => {
      draft.name = name
    })
}
</script>

<template>
  <div v-if="source && appearance" class="border-rule mt-3 flex flex-col gap-2 border-t pt-2.5">
    <TextField :model-value="source.name" label="Name" required @update:model-value="rename" />
    <template v-if="appearance.type === 'goal bar'">
      <TextField
        :model-value="appearance.label"
        label="Label"
        @update:model-value="set({ label: $event })"
      />
      <QuantityField
        quantity="share"
        :model-value="appearance.percent"
        label="Reached"
        @update:model-value="set({ percent: $event })"
      />
    </template>
    <TextField
      v-if="appearance.type === 'text' || appearance.type === 'alerts'"
      :model-value="appearance.text"
      label="Words"
      :max="appearance.type === 'text' ? 500 : 200"
      @update:model-value="set({ text: $event })"
    />
    <TextField
      v-if="appearance.type === 'text' || appearance.type === 'colour'"
      :model-value="appearance.colour"
      label="Colour"
      type="color"
      @update:model-value="set({ colour: $event })"
    />
    <template v-if="appearance.type === 'text'">
      <SelectField
        label="Font"
        :model-value="appearance.font"
        :choices="fontChoices"
        @update:model-value="set({ font: $event })"
      />
      <div class="grid grid-cols-2 gap-2">
        <SelectField
          label="Weight"
          :model-value="appearance.weight"
          :choices="weightChoices"
          @update:model-value="set({ weight: $event })"
        />
        <NumberField
          label="Size"
          unit="px"
          :units="pixelUnits"
          :min="4"
          :max="1000"
          :model-value="appearance.sizePixels"
          @update:model-value="set({ sizePixels: $event })"
        />
      </div>
      <div class="flex items-center gap-2">
        <OnSwitch
          label="Wrap"
          :model-value="appearance.wrap"
          @update:model-value="set({ wrap: $event })"
        />
        Wrap
        <OnSwitch
          class="ml-3"
          label="Band behind the words"
          :model-value="appearance.band"
          @update:model-value="set({ band: $event })"
        />
        Band
      </div>
    </template>
    <template v-if="appearance.type === 'media file'">
      <p class="text-ink-2 text-xs">
        {{ appearance.fileName }} ·
        <span class="number">{{ appearance.durationSeconds.toFixed(1) }} s</span> ·
        <span class="number">{{ appearance.codec }}</span>
      </p>
    </template>
    <p v-if="appearance.type === 'picture file'" class="text-ink-2 text-xs">
      {{ appearance.fileName }}
    </p>
    <LiveButtons :source="source" />
    <div class="flex flex-wrap gap-1">
      <button
        v-if="source.kind === 'picture' || source.kind === 'media file'"
        type="button"
        class="button"
        @click="ownFiles.replaceFile()"
      >
        <FileInput class="size-4" /> Another file …
      </button>
      <button type="button" class="button" @click="sources.duplicateSource()">
        <Copy class="size-4" /> Duplicate
      </button>
      <button type="button" class="button" @click="layers.removeChosen()">
        <Trash2 class="size-4" /> Remove from this scene
      </button>
    </div>
  </div>
</template>
