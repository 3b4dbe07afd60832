<script setup lang="ts">
import { startClockNote } from '@green-mantle/core/destinations'
import type { PictureChoice } from '@green-mantle/core/show'
import { computed } from 'vue'
import DateTimeField from '~/components/fields/DateTimeField.vue'
import NumberField from '~/components/fields/NumberField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import { pictureChoicesFor } from '~/composables/pictureChoices'
import { useShowEditing } from '~/composables/showEditing'
import { useShowStore } from '~/stores/show'
import ModalDialog from './ModalDialog.vue'
import StateMark from './StateMark.vue'

defineEmits<{ close: [] }>()
const store = useShowStore()
const editing = useShowEditing()

const zones = computed(() => {
  const names = [...new Set([store.show.timeZone, 'UTC', ...Intl.supportedValuesOf('timeZone')])]
  return names.map((value) => ({ value, label: value.replaceAll('_', ' ') }))
})
const startNote = computed(() => startClockNote(store.show))
const kinds = computed(() => pictureChoicesFor(store.show))
</script>

<template>
  <ModalDialog title="The show" @close="$emit('close')">
    <div class="grid grid-cols-2 gap-3">
      <TextField
        class="col-span-2"
        :model-value="store.show.title"
        label="Title"
        required
        @update:model-value="editing.setDetails('Rename the show', { title: $event })"
      />
      <DateTimeField
        :model-value="store.show.startsAt"
        label="Starts"
        required
        @update:model-value="editing.setDetails('Set the start', { startsAt: $event })"
      />
      <NumberField
        :model-value="store.show.durationMinutes"
        label="Length"
        unit="min"
        :units="{ min: 1, h: 60 }"
        :min="1"
        :max="10080"
        :step="5"
        @update:model-value="editing.setDetails('Set the length', { durationMinutes: $event })"
      />
      <SelectField
        :model-value="store.show.timeZone"
        label="Time zone"
        :choices="zones"
        @update:model-value="editing.setDetails('Set the time zone', { timeZone: $event })"
      />
      <SelectField
        :model-value="store.show.pictureKind"
        label="Mostly shows"
        :choices="kinds"
        @update:model-value="editing.setPictureKind($event as PictureChoice)"
      />
      <p v-if="startNote" class="text-ochre col-span-2 flex gap-2" role="status">
        <StateMark class="mt-1" state="attention" />{{ startNote }}
      </p>
    </div>
  </ModalDialog>
</template>
