<script setup lang="ts">
import { mediaCompared } from '@green-mantle/core/network'
import { mbpsNumber, mediumNames, shareInWords } from '@green-mantle/core/words'
import { computed } from 'vue'
import { useShowStore } from '~/stores/show'

/** Cable against Wi-Fi and mobile, where more than one was measured. */
const store = useShowStore()
const results = computed(() => mediaCompared(store.line))
</script>

<template>
  <section v-if="results.length > 1" class="card p-4" aria-labelledby="media-title">
    <h2 id="media-title" class="mb-2 text-lg">By cable or through the air</h2>
    <table class="w-full">
      <thead>
        <tr class="border-rule text-ink-2 border-b text-xs">
          <th class="py-1">By</th>
          <th class="pr-3 text-right">Low P{{ store.line.lowPercentile }}, Mb/s</th>
          <th class="pr-3 text-right">Middle</th>
          <th class="text-right">Of the best</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="result in results"
          :key="result.medium"
          class="border-rule border-b last:border-0"
        >
          <th scope="row" class="py-1.5 font-normal">
            {{ mediumNames[result.medium] }}
            <span class="text-ink-2 text-xs">{{ result.sampleCount }} measured</span>
          </th>
          <td class="number pr-3 text-right">{{ mbpsNumber(result.steadyKbps) }}</td>
          <td class="number pr-3 text-right">{{ mbpsNumber(result.medianKbps) }}</td>
          <td class="number text-right">{{ shareInWords(result.shareOfBest) }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
