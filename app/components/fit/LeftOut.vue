<script setup lang="ts">
import { listInWords } from '@green-mantle/core/words'
import { computed } from 'vue'
import { usePlannerStore } from '~/stores/planner'
import { useShowStore } from '~/stores/show'

/** What there is no room for, and which demands collide. */
const store = useShowStore()
const planner = usePlannerStore()
const names = computed(() =>
  [...store.show.destinations, ...store.show.recordings]
    .filter(({ on, plan }) => on && plan.leftOut)
    .map(({ name }) => name),
)
</script>

<template>
  <div
    v-if="names.length > 0 || planner.conflicts !== '' || planner.nearest"
    role="status"
    class="card bg-ochre-wash shrink-0 p-3"
  >
    <p v-if="names.length > 0" class="font-semibold">
      {{ planner.obstacles.length > 0 ? 'Left out' : 'Left out, since not everything fits' }}:
      {{ listInWords(names) }}.
    </p>
    <p v-for="words in planner.obstacles" :key="words">{{ words }}</p>
    <p v-if="planner.nearest">{{ planner.nearest.words }}</p>
    <p v-if="planner.conflicts !== ''">{{ planner.conflicts }}</p>
  </div>
</template>
