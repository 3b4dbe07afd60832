<script setup lang="ts">
import {
  countedSamples,
  samplesThatCarry,
  singleMeasurementAnswers,
} from '@green-mantle/core/network'
import { mbpsNumber } from '@green-mantle/core/words'
import { computed } from 'vue'
import { useShowStore } from '~/stores/show'

const store = useShowStore()
const rows = computed(() => {
  const { line } = store
  const { totalKbps } = store.verdict.budget
  return [
    { name: 'this plan', rateKbps: totalKbps, carriedBy: samplesThatCarry(line, totalKbps) },
    ...singleMeasurementAnswers(line),
  ]
})
const count = computed(() => countedSamples(store.line).length)
const tone = (carriedBy: number): string => {
  if (carriedBy === count.value) return 'text-moss'
  return carriedBy * 2 >= count.value ? 'text-ochre' : 'text-madder'
}
</script>

<template>
  <section class="card p-4" aria-labelledby="hold-title">
    <h2 id="hold-title" class="mb-2 text-lg">Would it have held?</h2>
    <table class="w-full">
      <thead>
        <tr class="border-rule text-ink-2 border-b text-xs">
          <th class="py-1">If you spent</th>
          <th class="pr-4 text-right">Mb/s</th>
          <th>Measurements that carry it</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.name" class="border-rule border-b last:border-0">
          <th scope="row" class="py-1.5 font-normal">{{ row.name }}</th>
          <td class="number pr-4 text-right">{{ mbpsNumber(row.rateKbps) }}</td>
          <td :class="tone(row.carriedBy)" class="font-semibold">
            {{ row.carriedBy }} of {{ count }}
          </td>
        </tr>
      </tbody>
    </table>
    <p class="text-ink-2 mt-2 text-xs">
      “One test” is the latest measurement, as the common single-number rules take it. Other traffic
      is counted beside each.
    </p>
  </section>
</template>
