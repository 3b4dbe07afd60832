<script setup lang="ts">
import { longerWaits, type TrialResult } from '@green-mantle/core/trial'
import { listInWords } from '@green-mantle/core/words'
import { TriangleAlert } from '@lucide/vue'
import { computed } from 'vue'
import { useDestinationEditing } from '~/components/destinations/destinationEditing'
import { useShowStore } from '~/stores/show'

/** What a longer wait would have held of what the sends of a trial dropped. */
const props = defineProps<{ result: TrialResult }>()
const store = useShowStore()
const editing = useDestinationEditing()

const waits = computed(() => longerWaits(store.show, props.result))
const names = computed(() => listInWords(waits.value.map(({ name }) => name)))
</script>

<template>
  <div v-if="waits.length > 0" class="mt-2 flex flex-wrap items-start gap-3">
    <div class="flex min-w-64 flex-1 items-start gap-2">
      <TriangleAlert class="text-ochre mt-0.5 size-4 shrink-0" aria-hidden="true" />
      <ul>
        <li
          v-for="{ destinationId, name, droppedSeconds, fromSeconds, toSeconds } in waits"
          :key="destinationId"
        >
          A wait of up to <span class="number">{{ toSeconds }}</span> s instead of
          <span class="number">{{ fromSeconds }}</span> would have held the
          <span class="number">{{ droppedSeconds.toFixed(1) }}</span> s that {{ name }} lost; its
          viewers would see it later by as much.
        </li>
      </ul>
    </div>
    <button type="button" class="button" @click="editing.waitLonger(waits)">
      Let {{ waits.length === 1 ? names : 'them' }} wait longer
    </button>
  </div>
</template>
