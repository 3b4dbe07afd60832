<script setup lang="ts">
import type { Gain } from '@green-mantle/core/plan'
import { changesSomething, gainInWords } from '@green-mantle/core/plan'
import { computed } from 'vue'
import { usePlannerStore } from '~/stores/planner'
import TriedWay from './TriedWay.vue'

/** What could be changed, ranked by what it brings; each is tried with one click and undone with one. */
const planner = usePlannerStore()
const shown = computed(() => planner.gains.filter(changesSomething).slice(0, 24))
const isGood = (gain: Gain): boolean =>
  gain.opensPlan ||
  gain.keptWeight > 0 ||
  (gain.keptWeight === 0 && gain.aboveFloor >= 0 && gain.points > 0)
</script>

<template>
  <div>
    <TriedWay />
    <p v-if="!planner.areGainsKnown && planner.canPlan" role="status" class="text-ink-2 text-xs">
      trying one after the other …
    </p>
    <ul>
      <li
        v-for="gain in shown"
        :key="gain.id"
        class="border-rule grid grid-cols-[minmax(0,1fr)_auto] gap-x-2 border-b py-1.5 last:border-0"
      >
        <span class="font-semibold">{{ gain.label }}</span>
        <button
          type="button"
          class="button row-span-2 self-center"
          :aria-label="`Try: ${gain.label}`"
          @click="planner.tryWay(gain.id)"
        >
          Try
        </button>
        <span class="text-ink-2 text-xs"
          ><b :class="isGood(gain) ? 'text-moss' : 'text-ochre'">{{ gainInWords(gain) }}</b
          >; {{ gain.note }}</span
        >
      </li>
    </ul>
    <p v-if="planner.areGainsKnown && shown.length === 0" class="text-ink-2">
      There is nothing to try.
    </p>
    <p class="text-ink-2 mt-1 text-xs">Points are picture score × how much it matters, added up.</p>
  </div>
</template>
