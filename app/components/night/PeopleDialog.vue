<script setup lang="ts">
import { marginMinutesLimits } from '@green-mantle/core/show'
import { X } from '@lucide/vue'
import { ref } from 'vue'
import NumberField from '~/components/fields/NumberField.vue'
import TextField from '~/components/fields/TextField.vue'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { useShowStore } from '~/stores/show'
import { useRunSheetEditing } from './runSheetEditing'

/** Who does things on the night, and how much time is left before the start. */
const emit = defineEmits<{ close: [] }>()
const show = useShowStore()
const editing = useRunSheetEditing()

const maxPeople = 20
const name = ref('')
function add(): void {
  const wanted = name.value.trim()
  if (wanted) editing.addPerson(wanted)
  name.value = ''
}
</script>

<template>
  <ModalDialog
    title="People and margin"
    description="Tasks are given to these. What different people do can be done at once, which makes going up shorter."
    @close="emit('close')"
  >
    <ul class="flex flex-col gap-2">
      <li v-for="person in show.show.runSheet.people" :key="person.id" class="flex gap-2">
        <TextField
          class="grow"
          label="Name"
          hide-label
          required
          :model-value="person.name"
          @update:model-value="editing.renamePerson(person.id, $event)"
        />
        <button
          type="button"
          class="button button-quiet"
          :aria-label="`Remove ${person.name}`"
          @click="editing.removePerson(person.id, person.name)"
        >
          <X class="size-4" />
        </button>
      </li>
    </ul>
    <form
      v-if="show.show.runSheet.people.length < maxPeople"
      class="mt-2 flex gap-2"
      @submit.prevent="add"
    >
      <input
        v-model="name"
        class="field grow"
        maxlength="200"
        aria-label="Name of somebody new"
        placeholder="Somebody new"
        autocomplete="off"
      />
      <button type="submit" class="button" :disabled="name.trim() === ''">Add</button>
    </form>
    <NumberField
      class="mt-4 w-48"
      label="Margin before the start"
      unit="min"
      :units="{ min: 1, h: 60 }"
      :min="marginMinutesLimits.min"
      :max="marginMinutesLimits.max"
      :step="1"
      :model-value="show.show.runSheet.marginMinutes"
      @update:model-value="editing.setMargin($event)"
    />
  </ModalDialog>
</template>
