<script setup lang="ts">
import { marginalInWords, resourceUsesOf } from '@green-mantle/core/plan'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { usePlannerStore } from '~/stores/planner'
import { useShowStore } from '~/stores/show'

/** How full everything is, and what more of it would buy. */
const store = useShowStore()
const planner = usePlannerStore()
/** What is said of the plan is said of the best one, which the cells need not be. */
const plan = computed(() => (store.show.fit.automatic ? 'this plan' : 'the best plan'))
const rooms = computed(() => resourceUsesOf(store.show))
const percent = (share: number): string => `${Math.min(100, share * 100)}%`
const tone = (share: number): string =>
  share > 1 + 1e-9 ? 'var(--madder)' : share > 0.97 ? 'var(--ochre)' : 'var(--moss)'
</script>

<template>
  <div class="flex flex-col gap-2">
    <dl class="flex flex-col gap-1.5">
      <div
        v-for="room in rooms"
        :key="room.id"
        class="grid grid-cols-[minmax(5.5rem,1fr)_minmax(1.5rem,4rem)_minmax(0,9.5rem)] items-center gap-2"
      >
        <dt class="leading-tight break-words">{{ room.name }}</dt>
        <dd class="bg-sunk h-2.5 overflow-hidden rounded-full" aria-hidden="true">
          <span
            class="block h-full rounded-full"
            :style="{ width: percent(room.share), background: tone(room.share) }"
          />
        </dd>
        <dd class="number text-right text-xs">
          {{ room.words }}<span v-if="room.share > 1 + 1e-9" class="text-madder"> too much</span>
        </dd>
      </div>
    </dl>
    <p v-if="store.show.computer.devices.length === 0" class="text-ink-2">
      Nothing is known of the computer, so only the line is planned.
      <RouterLink class="link" :to="`/shows/${store.id}/encoders`">Say what it can do.</RouterLink>
    </p>
    <div class="border-rule border-t pt-2" aria-live="polite">
      <template v-if="planner.marginals.length > 0">
        <p class="text-ochre font-semibold">What holds {{ plan }} back</p>
        <ul>
          <li v-for="marginal in planner.marginals" :key="marginal.id">
            {{ marginalInWords(marginal) }}
          </li>
        </ul>
      </template>
      <p
        v-else-if="planner.result?.status.name === 'optimal' && !planner.isWorking"
        class="text-ink-2"
      >
        Nothing holds {{ plan }} back: more upload or a faster computer would not better it by more
        than the margin.
      </p>
    </div>
  </div>
</template>
