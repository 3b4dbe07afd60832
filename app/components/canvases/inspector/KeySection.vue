<script setup lang="ts">
import { type ChromaKey, defaultChromaKey } from '@green-mantle/core/show'
import { Pipette } from '@lucide/vue'
import { computed } from 'vue'
import QuantityField from '~/components/fields/QuantityField.vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import TextField from '~/components/fields/TextField.vue'
import { useSelectionStore } from '~/stores/selection'
import { useWorkbenchStore } from '~/stores/workbench'
import { useSources } from '../editing/sources'
import InspectorSection from './InspectorSection.vue'

/** Makes a backdrop of one colour transparent. */
const selection = useSelectionStore()
const workbench = useWorkbenchStore()
const sources = useSources()
const source = computed(() => selection.selected?.source)
const key = computed(() => source.value?.chromaKey)
const keyedKinds = ['camera', 'guest', 'media file', 'screen', 'window', 'picture']

function change(changes: Partial<ChromaKey>): void {
  const id = source.value?.id
  if (id)
    sources.edit(
      id,
      'Key the backdrop of',
      (draft) => {
        draft.chromaKey = { ...(draft.chromaKey ?? defaultChromaKey), ...changes }
      },
      `key ${id} ${Object.keys(changes).join()}`,
    )
}

const sliders = [
  { key: 'similarityPercent', label: 'Similarity' },
  { key: 'smoothnessPercent', label: 'Smoothness' },
  { key: 'spillPercent', label: 'Spill' },
] as const

function pick(): void {
  workbench.picksKeyFor = workbench.picksKeyFor ? undefined : source.value?.id
}
</script>

<template>
  <InspectorSection
    v-if="source && keyedKinds.includes(source.kind)"
    title="Backdrop key"
    :summary="key?.on ? 'on' : 'off'"
  >
    <div class="flex items-center gap-2">
      <OnSwitch
        label="Key out the backdrop"
        :model-value="key?.on ?? false"
        @update:model-value="change({ on: $event })"
      />
      <span>Key out the backdrop</span>
    </div>
    <template v-if="key?.on">
      <div class="flex items-end gap-2">
        <TextField
          class="grow"
          type="color"
          label="Colour"
          :model-value="key.colour"
          @update:model-value="change({ colour: $event })"
        />
        <button
          type="button"
          class="button"
          :aria-pressed="workbench.picksKeyFor === source.id"
          @click="pick"
        >
          <Pipette class="size-4" /> Pick
        </button>
      </div>
      <p v-if="workbench.picksKeyFor === source.id" role="status" class="text-xs">
        Click the backdrop on a canvas; Escape leaves it as it is.
      </p>
      <QuantityField
        v-for="slider in sliders"
        :key="slider.key"
        quantity="share"
        :label="slider.label"
        :model-value="key[slider.key]"
        @update:model-value="change({ [slider.key]: $event })"
      />
    </template>
  </InspectorSection>
</template>
