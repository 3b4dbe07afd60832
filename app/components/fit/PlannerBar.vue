<script setup lang="ts">
import { RotateCcw, Wand2 } from '@lucide/vue'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import ChoosingPlans from './ChoosingPlans.vue'
import { usePlannerStore } from '~/stores/planner'
import { useShowStore } from '~/stores/show'
import { useFitEditing } from './fitEditing'

/** How the planner is told what to do. */
const store = useShowStore()
const planner = usePlannerStore()
const editing = useFitEditing()

const hasPins = computed(() =>
  [
    ...store.show.destinations.flatMap(({ renditions }) => renditions),
    ...store.show.recordings.map(({ rendition }) => rendition),
  ].some(({ pins }) => pins.length > 0),
)
</script>

<template>
  <div class="roomy:shrink-0 flex flex-wrap items-end gap-3">
    <span class="flex min-h-8 items-center gap-2">
      <OnSwitch
        :model-value="store.show.fit.automatic"
        label="Plan by itself"
        @update:model-value="
          editing.setFit($event ? 'Plan by itself' : 'Set cells by hand', { automatic: $event })
        "
      />
      <span aria-hidden="true">Plan by itself</span>
    </span>
    <button
      v-if="!planner.isAutomatic"
      type="button"
      class="button button-primary"
      :disabled="planner.isCarried"
      @click="planner.carryOut"
    >
      <Wand2 class="size-4" /> Take the best plan
    </button>
    <button v-if="hasPins" type="button" class="button" @click="editing.unpinAll">Unpin all</button>
    <button
      v-if="planner.isAutomatic"
      type="button"
      class="button"
      title="Forgets the last plan, which is else changed as little as can be"
      @click="planner.planAfresh"
    >
      <RotateCcw class="size-4" /> Plan afresh
    </button>
    <button v-if="planner.isWorking" type="button" class="button" @click="planner.stop">
      Stop planning
    </button>
    <ChoosingPlans />
    <RouterLink class="link pb-1.5" :to="`/shows/${store.id}/encoders`">Encoders …</RouterLink>
  </div>
</template>
