<script setup lang="ts">
import type { Gain } from '@green-mantle/core/plan'
import { changesSomething, gainInWords } from '@green-mantle/core/plan'
import { computed, defineAsyncComponent } from 'vue'
import { usePlannerStore } from '~/stores/planner'
import TriedWay from './TriedWay.vue'

// Nights are simulated only where less headroom is offered.
const CleanNightsAt = defineAsyncComponent(() => import('./CleanNightsAt.vue'))

/** What could be changed, ranked by what it brings; each is tried with one click and undone with one. */
const planner = usePlannerStore()
const isGood = (gain: Gain): boolean =>
  gain.opensPlan ||
  gain.keptWeight > 0 ||
  (gain.keptWeight === 0 && gain.aboveFloor >= 0 && gain.points > 0)
const shown = computed(() => planner.gains.filter(changesSomething).slice(0, 24))
const groups = computed(() =>
  [
    { title: '', ways: shown.value.filter(isGood) },
    {
      title: 'What costs points, and what it frees',
      ways: shown.value.filter((gain) => !isGood(gain)),
    },
  ].filter(({ ways }) => ways.length > 0),
)
</script>

<template>
  <div>
    <TriedWay />
    <p v-if="!planner.areGainsKnown && planner.canPlan" role="status" class="text-ink-2 text-xs">
      trying one after the other …
    </p>
    <template v-for="group in groups" :key="group.title">
      <h4 v-if="group.title" class="font-text text-ink-2 mt-2 text-sm font-semibold">
        {{ group.title }}
      </h4>
      <ul>
        <li
          v-for="gain in group.ways"
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
            ><b :class="isGood(gain) ? 'text-moss' : 'text-ochre'">{{ gainInWords(gain) }}</b>;
            {{ gain.note
            }}<CleanNightsAt v-if="gain.headroomPercent !== null" :percent="gain.headroomPercent"
          /></span>
        </li>
      </ul>
    </template>
    <p v-if="planner.areGainsKnown && shown.length > 0 && !shown.some(isGood)" class="text-ink-2">
      Nothing here would gain points.
    </p>
    <p v-if="planner.areGainsKnown && shown.length === 0" class="text-ink-2">
      There is nothing to try.
    </p>
    <p class="text-ink-2 mt-1 text-xs">Points are picture score × how much it matters, added up.</p>
  </div>
</template>
