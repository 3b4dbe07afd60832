<script setup lang="ts">
import { ArrowDownToLine, Plus, Trash2 } from '@lucide/vue'
import { computed, ref } from 'vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import { useShowStore } from '~/stores/show'
import BringLineDialog from './BringLineDialog.vue'
import { useLineEditing } from './lineEditing'

/** Which of the show's lines it goes up, and what it is called. */
const store = useShowStore()
const editing = useLineEditing()
const isBringing = ref(false)
const choices = computed(() =>
  store.show.lines.map(({ id, name }) => ({ value: id, label: name || 'unnamed' })),
)
</script>

<template>
  <div class="flex flex-wrap items-end gap-2">
    <h2 class="text-2xl">Line</h2>
    <SelectField
      v-if="store.show.lines.length > 1"
      class="min-w-32 flex-1"
      label="The show goes up"
      :model-value="store.show.lineId"
      :choices="choices"
      @update:model-value="editing.choose"
    />
    <TextField
      class="min-w-40 flex-1"
      label="Name of this line"
      :model-value="store.line.name"
      @update:model-value="editing.change('Rename the line', (line) => void (line.name = $event))"
    />
    <button type="button" class="button" @click="editing.add"><Plus class="size-4" /> Line</button>
    <button
      type="button"
      class="button px-1.5!"
      aria-label="Bring a line from another show"
      title="Bring a line from another show"
      @click="isBringing = true"
    >
      <ArrowDownToLine class="size-4" />
    </button>
    <button
      type="button"
      class="button px-1.5!"
      :aria-label="`Remove ${store.line.name}`"
      :title="`Remove ${store.line.name}`"
      :disabled="store.show.lines.length === 1"
      @click="editing.remove"
    >
      <Trash2 class="size-4" />
    </button>
    <BringLineDialog v-if="isBringing" @close="isBringing = false" />
  </div>
</template>
