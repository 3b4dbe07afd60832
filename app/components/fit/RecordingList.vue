<script setup lang="ts">
import {
  canvasNames,
  type Codec,
  codecs,
  type RecordedMix,
  recordedMixes,
} from '@green-mantle/core/show'
import { codecNames } from '@green-mantle/core/words'
import { Plus, Trash2 } from '@lucide/vue'
import ChoiceSet from '~/components/fields/ChoiceSet.vue'
import QuantityField from '~/components/fields/QuantityField.vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import { useShowStore } from '~/stores/show'
import { useFitEditing } from './fitEditing'

/** What is kept on the disk, on or off, and what each may be. */
const store = useShowStore()
const editing = useFitEditing()
const mixes = recordedMixes.map((value) => ({ value, label: value }))
const codecChoices = codecs.map((value) => ({ value, label: codecNames[value] }))
</script>

<template>
  <ul>
    <li
      v-for="recording in store.show.recordings"
      :key="recording.id"
      class="border-rule flex flex-wrap items-end gap-3 border-b py-2"
    >
      <span class="flex min-h-8 items-center">
        <OnSwitch
          :model-value="recording.on"
          :label="`${recording.name} is on`"
          @update:model-value="
            editing.changeRecording(recording, $event ? 'Switch on' : 'Switch off', { on: $event })
          "
        />
      </span>
      <TextField
        class="w-48"
        label="Recording"
        required
        :model-value="recording.name"
        @update:model-value="editing.changeRecording(recording, 'Rename', { name: $event })"
      />
      <span class="text-ink-2 pb-1.5">{{ recording.canvas }}</span>
      <SelectField
        class="w-32"
        label="Sound"
        :model-value="recording.mix"
        :choices="mixes"
        @update:model-value="
          editing.changeRecording(recording, 'Set', { mix: $event as RecordedMix })
        "
      />
      <QuantityField
        quantity="video bitrate"
        class="w-36"
        label="At most"
        :model-value="recording.mostVideoBitrateKbps"
        @update:model-value="
          editing.changeRecording(recording, 'Set', { mostVideoBitrateKbps: $event })
        "
      />
      <ChoiceSet
        label="Codecs"
        :choices="codecChoices"
        :model-value="recording.codecs"
        @update:model-value="
          editing.changeRecording(recording, 'Set', { codecs: $event as Codec[] })
        "
      />
      <span class="grow" />
      <button
        type="button"
        class="button button-quiet"
        :aria-label="`Remove ${recording.name}`"
        @click="editing.removeRecording(recording)"
      >
        <Trash2 class="size-4" />
      </button>
    </li>
  </ul>
  <div class="mt-2 flex gap-2">
    <button
      v-for="canvas in canvasNames"
      :key="canvas"
      type="button"
      class="button"
      @click="editing.addRecording(canvas)"
    >
      <Plus class="size-4" /> Record the {{ canvas }} canvas
    </button>
  </div>
</template>
