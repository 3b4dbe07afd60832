<script setup lang="ts">
import { listInWords, mbpsInWords } from '@green-mantle/core/words'
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
    v-if="names.length > 0 || planner.conflicts.length > 0 || planner.nearest"
    role="status"
    class="card bg-ochre-wash shrink-0 p-3"
  >
    <p v-if="names.length > 0" class="font-semibold">
      {{ planner.obstacles.length > 0 ? 'Left out' : 'Left out, since not everything fits' }}:
      {{ listInWords(names) }}.
    </p>
    <p v-for="words in planner.obstacles" :key="words">{{ words }}</p>
    <p v-if="planner.nearest">
      {{
        planner.nearest.missKbps === null
          ? 'No upload would make room for what has to be kept: the computer or a rule stands in the way.'
          : `The nearest plan misses by ${mbpsInWords(planner.nearest.missKbps)} of upload.`
      }}
    </p>
    <p v-if="planner.conflicts.length > 0">
      These cannot all be met at once, and letting go of any one of them would do:
      {{ listInWords(planner.conflicts) }}.
    </p>
  </div>
</template>
