<script setup lang="ts">
import { durationInWords } from '@green-mantle/core/words'
import { computed } from 'vue'
import { useNightLogStore } from '~/stores/nightLog'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'
import { clockOrDays, dayAndTime } from './nightTimes'

/** How long to the start, or since. */
defineProps<{ large?: boolean }>()
const show = useShowStore()
const sheet = useRunSheetStore()
const log = useNightLogStore()

const onAirAt = computed(() => log.state.ticks.get('on-air')?.at)
/** Counted from when it really began, once it has. */
const seconds = computed(() =>
  onAirAt.value ? (sheet.now.getTime() - Date.parse(onAirAt.value)) / 1000 : sheet.nowSeconds,
)
const words = computed(() => {
  if (onAirAt.value) return 'On air for'
  return seconds.value < 0 ? 'On air in' : 'Should be on air since'
})
const start = computed(() => dayAndTime(sheet.startsAt, show.show.timeZone, sheet.now))
</script>

<template>
  <section class="card p-3 text-center" aria-label="Clock">
    <p class="text-ink-2 text-sm">{{ words }}</p>
    <p
      class="number leading-tight"
      :class="[large ? 'text-6xl' : 'text-5xl', seconds >= 0 && !onAirAt ? 'text-madder' : '']"
      role="timer"
    >
      {{ clockOrDays(seconds) }}
    </p>
    <p class="text-ink-2 text-sm">{{ start }}, {{ show.show.timeZone.replaceAll('_', ' ') }}</p>
    <p v-if="sheet.slipSeconds > 60 && !onAirAt" class="text-madder mt-1 font-semibold">
      As things stand, {{ durationInWords(sheet.slipSeconds) }} late
    </p>
  </section>
</template>
