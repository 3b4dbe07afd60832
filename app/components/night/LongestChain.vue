<script setup lang="ts">
import { durationInWords } from '@green-mantle/core/words'
import { computed } from 'vue'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'
import { dayAndTime } from './nightTimes'

/** What decides when going up has to begin. */
const show = useShowStore()
const sheet = useRunSheetStore()

const chain = computed(() => sheet.order.chain)
const beginsAt = computed(() => {
  const [first] = chain.value
  return first
    ? dayAndTime(
        new Date(sheet.startsAt.getTime() + first.atSeconds * 1000),
        show.show.timeZone,
        sheet.now,
      )
    : ''
})
</script>

<template>
  <section v-if="chain.length > 1" class="card p-3" aria-labelledby="chain-title">
    <h2 id="chain-title" class="text-lg">Going up begins at {{ beginsAt }}</h2>
    <p class="text-ink-2 text-sm">
      The longest chain takes {{ durationInWords(sheet.order.chainSeconds) }}, and
      {{ show.show.runSheet.marginMinutes }} min of margin are left before the start. What slips in
      it moves the start. Shared among more people it gets shorter; how long each thing takes is
      common practice.
    </p>
    <ol class="mt-2 text-sm leading-6">
      <li v-for="(task, index) in chain" :key="task.id" class="inline">
        <span v-if="index > 0" class="text-ink-2" aria-hidden="true"> → </span>
        <span class="bg-sunk rounded px-1">{{ task.title }}</span>
      </li>
    </ol>
  </section>
</template>
