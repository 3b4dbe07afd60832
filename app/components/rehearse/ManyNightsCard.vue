<script setup lang="ts">
import { listInWords } from '@green-mantle/core/words'
import { computed } from 'vue'
import { useRehearsalStore } from '~/stores/rehearsal'

/** Why nights are not clean, who suffers first, and how the figures of each send are spread. */
const rehearsal = useRehearsalStore()
const causeNames = { line: 'the line', computer: 'the computer', destination: 'a destination' }
const many = computed(() => rehearsal.many)
const names = computed(() => rehearsal.looked?.sends.map(({ name }) => name) ?? [])
const ofHundred = (nights: number): string =>
  ((100 * nights) / Math.max(1, many.value.nights)).toFixed(1)
const nightsToOpen = computed(() =>
  [
    { label: 'the worst', night: many.value.worst },
    { label: 'the median', night: many.value.median },
    { label: 'the first unclean', night: many.value.firstUnclean },
  ].filter((entry): entry is { label: string; night: number } => entry.night !== null),
)
const percent = (share: number): string => (100 * share).toFixed(1)
</script>

<template>
  <section class="card p-3.5" aria-labelledby="causes-title">
    <h3 id="causes-title" class="mb-1 text-base">When a night is not clean</h3>
    <p v-if="many.nights === 0" class="text-ink-2">
      Run many nights to see how often, why and who suffers first.
    </p>
    <template v-else>
      <table v-if="many.causes.length > 0" class="w-full">
        <thead>
          <tr class="border-rule text-ink-2 border-b text-left text-xs">
            <th class="py-1">Because of</th>
            <th>Nights in 100</th>
            <th>First to suffer</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="entry in many.causes" :key="entry.cause" class="border-rule border-b">
            <td class="py-1">{{ causeNames[entry.cause] }}</td>
            <td class="number">{{ ofHundred(entry.nights) }}</td>
            <td>{{ entry.first }}</td>
          </tr>
        </tbody>
      </table>
      <p v-else>All {{ many.nights }} are clean.</p>
      <div class="mt-2 flex flex-wrap items-center gap-1">
        <span class="text-ink-2 text-xs">Look at</span>
        <button
          v-for="entry in nightsToOpen"
          :key="entry.label"
          type="button"
          class="button"
          @click="rehearsal.look(entry.night)"
        >
          {{ entry.label }}
        </button>
      </div>
      <table class="mt-2 w-full text-xs">
        <caption class="text-ink-2 text-left">
          {{
            `At the 5th, 50th and 95th of 100 nights: ${listInWords(['lost %', 'behind s', 'away s', 'score'])}`
          }}
        </caption>
        <tbody>
          <tr v-for="(spread, index) in many.spreads" :key="index" class="border-rule border-b">
            <th scope="row" class="max-w-28 truncate py-0.5 text-left font-normal">
              {{ names[index] }}
            </th>
            <td class="number">
              {{ percent(spread.lostShare.low) }} {{ percent(spread.lostShare.middle) }}
              {{ percent(spread.lostShare.high) }}
            </td>
            <td class="number">
              {{ spread.behindSeconds.low.toFixed(1) }} {{ spread.behindSeconds.middle.toFixed(1) }}
              {{ spread.behindSeconds.high.toFixed(1) }}
            </td>
            <td class="number">
              {{ Math.round(spread.awaySeconds.low) }} {{ Math.round(spread.awaySeconds.middle) }}
              {{ Math.round(spread.awaySeconds.high) }}
            </td>
            <td class="number">
              {{ Math.round(spread.score.low) }} {{ Math.round(spread.score.middle) }}
              {{ Math.round(spread.score.high) }}
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </section>
</template>
