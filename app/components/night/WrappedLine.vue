<script setup lang="ts">
import { durationInWords, mbpsInWords, shareInWords } from '@green-mantle/core/words'
import { computed } from 'vue'
import { saidAt } from './nightTimes'
import { useWrappedNight } from './wrappedNight'

/** What the line carried of a night that was sent from here, and what its encodes took. */
const { plannedShow, wrapped } = useWrappedNight()
/** What is not known of an encode is not said. */
const encodes = computed(() =>
  wrapped.value.encoded.flatMap(({ canvas, processorShare, plannedShare }) =>
    processorShare === null
      ? []
      : [
          `The encodes of the ${canvas} canvas took ${shareInWords(processorShare)} of the processor${
            plannedShare === null ? '' : `, planned ${shareInWords(plannedShare)}`
          }.`,
        ],
  ),
)
const time = (iso: string): string => saidAt(iso, plannedShow.value.timeZone)
</script>

<template>
  <section aria-labelledby="line-title">
    <h2 id="line-title" class="mt-5 text-lg">Line and computer</h2>
    <ul>
      <template v-for="(each, index) in wrapped.line" :key="index">
        <li>
          The line carried {{ mbpsInWords(each.meanKbps) }} on average over
          {{ durationInWords(each.seconds)
          }}{{ each.shortages.length === 0 ? ' and was never short.' : '.' }}
        </li>
        <li v-for="shortage in each.shortages" :key="shortage.startedAt">
          Short from {{ time(shortage.startedAt) }} for {{ durationInWords(shortage.seconds) }}: it
          carried {{ mbpsInWords(shortage.carriedKbps) }}.
        </li>
      </template>
      <li v-for="(words, index) in encodes" :key="`encoded ${index}`">{{ words }}</li>
    </ul>
    <p class="text-ink-2 text-xs">
      The line counts as short while sends to two places or more are behind; decoding and scaling of
      a canvas are in what its encodes took.
    </p>
  </section>
</template>
