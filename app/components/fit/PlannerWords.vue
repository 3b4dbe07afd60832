<script setup lang="ts">
import { gapInWords, marginInWords } from '@green-mantle/core/plan'
import { mbpsInWords } from '@green-mantle/core/words'
import { computed } from 'vue'
import { usePlannerStore } from '~/stores/planner'
import { useShowStore } from '~/stores/show'

/** What the planner is doing, and how sure it is of its plan. */
const store = useShowStore()
const planner = usePlannerStore()

/** What "best possible" means. */
const within = computed(() => marginInWords(store.show.fit))

const words = computed(() => {
  if (!planner.canPlan) return 'The planner waits for a measured line and something to send.'
  const found = planner.result
  const usable = mbpsInWords(store.verdict.budget.upload.usableKbps)
  if (planner.isWorking) return `Planning for ${usable} …`
  if (!found) return ''
  if (!found.parts)
    return planner.nearest?.parts
      ? 'No plan keeps what has to be kept. This is the one that nearly does; see below which demands collide.'
      : 'No plan keeps what has to be kept; see below which demands collide.'
  if (found.status.name === 'stopped')
    return `The best plan found for ${usable}, not proven: another could be ${gapInWords(found.status.gap) ?? 'better'}.`
  if (!planner.isAutomatic && !planner.isCarried)
    return `Cells are set by hand. The planner knows the best possible plan for ${usable}, ${within.value}.`
  if (planner.isAutomatic && planner.staysAsItIs && !planner.isCarried)
    return `The plan that was kept still fits ${usable}. Planned anew it would be another; Plan afresh takes that one.`
  return `The best possible plan for ${usable}, ${within.value}. Pinned cells are kept.`
})
</script>

<template>
  <p class="text-ink-2 min-h-5">
    <span role="status">{{ words }}</span> {{ store.verdict.advice }}
  </p>
</template>
