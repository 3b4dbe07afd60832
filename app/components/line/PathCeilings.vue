<script setup lang="ts">
import { pathCeilings } from '@green-mantle/core/fit'
import { mbpsNumber } from '@green-mantle/core/words'
import { computed } from 'vue'
import { useShowStore } from '~/stores/show'

/** The most one TCP connection carries to each destination, where its path is known. */
const store = useShowStore()
const ceilings = computed(() => pathCeilings(store.show))
</script>

<template>
  <section v-if="ceilings.length > 0" class="card p-4" aria-labelledby="paths-title">
    <h2 id="paths-title" class="mb-2 text-lg">What one connection carries</h2>
    <table class="w-full">
      <thead>
        <tr class="border-rule text-ink-2 border-b text-xs">
          <th class="py-1">To</th>
          <th class="pr-3 text-right">Trip, ms</th>
          <th class="pr-3 text-right">Lost, %</th>
          <th class="pr-3 text-right">At most, Mb/s</th>
          <th class="text-right">Sent</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="ceiling in ceilings"
          :key="ceiling.destinationId"
          class="border-rule border-b last:border-0"
        >
          <th scope="row" class="py-1.5 font-normal">{{ ceiling.name }}</th>
          <td class="number pr-3 text-right">{{ ceiling.roundTripMilliseconds }}</td>
          <td class="number pr-3 text-right">{{ ceiling.lossPercent }}</td>
          <td class="number pr-3 text-right">
            {{ ceiling.ceilingKbps === null ? 'no limit' : mbpsNumber(ceiling.ceilingKbps) }}
          </td>
          <td class="number text-right" :class="ceiling.fits ? 'text-moss' : 'text-madder'">
            {{ mbpsNumber(ceiling.sentKbps) }}{{ ceiling.fits ? '' : ', too much' }}
          </td>
        </tr>
      </tbody>
    </table>
    <p class="text-ink-2 mt-2 text-xs">
      From round trip and loss of each path (Mathis et al. 1997); SRT and WHIP do not use TCP.
    </p>
  </section>
</template>
