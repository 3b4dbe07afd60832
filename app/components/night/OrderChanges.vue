<script setup lang="ts">
import { durationInWords } from '@green-mantle/core/words'
import { computed } from 'vue'
import { useRunSheetStore } from '~/stores/runSheet'
import { useRunSheetEditing } from './runSheetEditing'

/** What of the order is new, gone or moved since somebody last looked it through. */
const sheet = useRunSheetStore()
const editing = useRunSheetEditing()

const said = computed(() => {
  const { changes } = sheet
  if (changes === null) return null
  const moved = changes.moved.map(
    ({ title, bySeconds }) =>
      `${title}, ${durationInWords(Math.abs(bySeconds))} ${bySeconds > 0 ? 'later' : 'earlier'}`,
  )
  return [
    { name: 'new', items: changes.added },
    { name: 'gone', items: changes.gone },
    { name: 'moved', items: moved },
  ].filter(({ items }) => items.length > 0)
})
</script>

<template>
  <div v-if="said === null && !sheet.isOn" class="mt-1 flex items-center gap-2 text-xs">
    <p class="text-ink-2 grow">
      Made from the show. Looked through, it says later what a change to the show made new.
    </p>
    <button type="button" class="button shrink-0" @click="editing.lookedThrough()">
      Looked through
    </button>
  </div>
  <details v-else-if="said && said.length > 0" class="bg-ochre-wash mt-1 rounded-md p-2 text-xs">
    <summary class="cursor-pointer font-semibold">
      The show changed:
      {{ said.map(({ name, items }) => `${items.length} ${name}`).join(', ') }}
    </summary>
    <div class="max-h-40 overflow-y-auto">
      <p v-for="{ name, items } in said" :key="name" class="mt-1">
        <strong>{{ name }}:</strong> {{ items.join('; ') }}
      </p>
    </div>
    <button type="button" class="button mt-2" @click="editing.lookedThrough()">
      Looked through
    </button>
  </details>
</template>
