<script setup lang="ts">
import { listInWords } from '@green-mantle/core/words'
import { Play } from '@lucide/vue'
import { computed } from 'vue'
import { useNightLogStore } from '~/stores/nightLog'
import { useSenderStore } from '~/stores/sender'
import { useShowStore } from '~/stores/show'

/** What was under way when the server ended without a word, and a press to go on with it. */
const show = useShowStore()
const sender = useSenderStore()
const log = useNightLogStore()
const interrupted = computed(() =>
  sender.answer && !sender.isOn && !sender.answer.elsewhere ? log.state.interrupted : null,
)
const names = computed(() =>
  show.show.destinations
    .filter(({ id }) => interrupted.value?.destinationIds.includes(id))
    .map(({ name }) => name),
)
</script>

<template>
  <div
    v-if="interrupted"
    role="alert"
    class="border-madder my-2 flex flex-wrap items-center gap-x-4 gap-y-2 border-l-4 pl-3"
  >
    <p class="text-madder text-2xl leading-snug">
      The server ended while it sent{{ names.length > 0 ? ` to ${listInWords(names)}` : '' }}.
    </p>
    <button
      type="button"
      class="button button-primary"
      :disabled="sender.isWorking"
      @click="sender.goOn(interrupted)"
    >
      <Play class="size-4" />
      {{ sender.isWorking ? 'Starting the encoders …' : 'Go on with it' }}
    </button>
  </div>
</template>
