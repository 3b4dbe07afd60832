<script setup lang="ts">
import { eventInWords } from '@green-mantle/core/night'
import { computed, ref } from 'vue'
import { useNightLogStore } from '~/stores/nightLog'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'
import { secondOfDay } from './nightTimes'

/** What was kept as it happened, the newest first. */
const show = useShowStore()
const sheet = useRunSheetStore()
const log = useNightLogStore()

const maxShown = 200
const entries = computed(() =>
  log.state.events
    .toReversed()
    .flatMap((event) => {
      const words = eventInWords(event)
      return words === null ? [] : [{ id: event.id, at: event.at, words, who: event.who }]
    })
    .slice(0, maxShown),
)
const note = ref('')
function keep(): void {
  const text = note.value.trim()
  if (text) sheet.say({ kind: 'noted', text })
  note.value = ''
}
</script>

<template>
  <section class="card flex min-h-0 flex-col p-3" aria-labelledby="kept-title">
    <h2 id="kept-title" class="text-lg">Kept as it happened</h2>
    <p v-if="log.unkeptCount > 0" role="status" class="text-ochre text-sm">
      Not kept by the server yet: {{ log.unkeptCount }}. Kept in this browser, and tried again.
    </p>
    <p v-else-if="log.isRead && !log.isConnected" role="status" class="text-ochre text-sm">
      What others do is not seen for the moment; it is tried again.
    </p>
    <form class="mt-1 flex gap-2" @submit.prevent="keep">
      <input
        v-model="note"
        class="field min-w-0 grow"
        maxlength="2000"
        aria-label="A note"
        placeholder="A note"
        autocomplete="off"
      />
      <button type="submit" class="button" :disabled="note.trim() === ''">Keep</button>
    </form>
    <ol class="mt-1 min-h-0 grow overflow-y-auto" tabindex="0" aria-label="Log of the night">
      <li
        v-for="{ id, at, words, who } in entries"
        :key="id"
        class="border-rule flex gap-2 border-b py-1 text-sm"
      >
        <span class="number shrink-0 text-xs leading-5">{{
          secondOfDay(at, show.show.timeZone)
        }}</span>
        <span class="min-w-0 wrap-anywhere"
          >{{ words }}<span v-if="who" class="text-ink-2"> · {{ who }}</span></span
        >
      </li>
    </ol>
  </section>
</template>
