<script setup lang="ts">
import { wholeNumber } from '@green-mantle/core/words'
import { computed } from 'vue'
import { nightsWanted, useRehearsalStore } from '~/stores/rehearsal'

/** What makes more nights clean, each run on the same nights. */
const rehearsal = useRehearsalStore()
const found = computed(() => rehearsal.remedies)
const ofHundred = (clean: number, nights: number): number =>
  Math.floor((100 * clean) / Math.max(1, nights))
</script>

<template>
  <section class="card p-3.5" aria-labelledby="remedies-title">
    <h3 id="remedies-title" class="mb-1 text-base">Cheaper ways to the same</h3>
    <p v-if="rehearsal.running === 'remedies'" role="status" class="text-ink-2 text-xs">
      trying one after the other on the same nights …
      <button type="button" class="link" @click="rehearsal.stop()">Stop</button>
    </p>
    <p v-else-if="rehearsal.summaries.length === 0" class="text-ink-2 text-xs">
      Run {{ wholeNumber(nightsWanted) }} nights first; then each way is tried on the same nights.
    </p>
    <button
      v-else-if="!rehearsal.areRemediesKnown"
      type="button"
      class="button"
      :disabled="!rehearsal.isOfThisPlan"
      @click="rehearsal.tryRemedies()"
    >
      Try them
    </button>
    <ul>
      <li
        v-for="remedy in found"
        :key="remedy.id"
        class="border-rule grid grid-cols-[minmax(0,1fr)_auto_auto] items-center gap-x-2 border-b py-1.5 last:border-0"
      >
        <span
          >{{ remedy.label }}
          <span class="text-ink-2 block text-xs"
            >{{ remedy.note
            }}<template v-if="Math.abs(remedy.points) >= 0.05"
              >; {{ remedy.points > 0 ? '+' : '−' }}{{ Math.abs(remedy.points).toFixed(1) }} points
              seen</template
            ></span
          ></span
        >
        <b class="number text-moss" :title="`${remedy.won} more of ${remedy.nights} nights`">{{
          ofHundred(remedy.clean, remedy.nights)
        }}</b>
        <button
          type="button"
          class="button"
          :aria-label="`Try: ${remedy.label}`"
          @click="rehearsal.takeRemedy(remedy.id)"
        >
          Try
        </button>
      </li>
    </ul>
    <p v-if="rehearsal.areRemediesKnown && found.length === 0" class="text-ink-2">
      Nothing that was tried makes more nights clean.
    </p>
  </section>
</template>
