<script setup lang="ts">
import { effortsThatKeepUp, type TrialResult } from '@green-mantle/core/trial'
import { listInWords, pointsInWords, shareInWords } from '@green-mantle/core/words'
import { TriangleAlert } from '@lucide/vue'
import { computed } from 'vue'
import { useFitEditing } from '~/components/fit/fitEditing'
import { useShowStore } from '~/stores/show'

/** With which efforts a computer would keep up that did not, and what that costs. */
const props = defineProps<{ result: TrialResult }>()
const store = useShowStore()
const editing = useFitEditing()

const keepingUp = computed(() => effortsThatKeepUp(store.show, props.result.processes))
const action = computed(() => {
  const isOne = keepingUp.value?.name === 'less effort' && keepingUp.value.lighter.length === 1
  const efforts = isOne ? 'this effort' : 'these efforts'
  return `${store.show.fit.automatic ? 'Pin' : 'Set'} ${efforts}`
})
</script>

<template>
  <p v-if="keepingUp?.name === 'too much'" class="mt-2 flex items-start gap-2">
    <TriangleAlert class="text-ochre mt-0.5 size-4 shrink-0" aria-hidden="true" />
    Less effort alone does not help: with the least that is not pinned, all of it would still take
    {{ shareInWords(keepingUp.processorShare) }} of the processor. Fewer pixels, frames or encodes
    do.
  </p>
  <div v-else-if="keepingUp" class="mt-2 flex flex-wrap items-start gap-3">
    <div class="flex min-w-64 flex-1 items-start gap-2">
      <TriangleAlert class="text-ochre mt-0.5 size-4 shrink-0" aria-hidden="true" />
      <div>
        <p>
          With less effort it keeps up: {{ shareInWords(keepingUp.processorShare) }} of the
          processor, reckoned from what was measured here.
        </p>
        <ul class="mt-1">
          <li
            v-for="{ names, renditionIds, from, to, lostPoints } in keepingUp.lighter"
            :key="renditionIds[0]"
          >
            At <em>{{ to }}</em> instead of <em>{{ from }}</em> {{ listInWords(names) }}
            {{ names.length === 1 ? 'loses' : 'lose' }}
            {{ lostPoints < 0.05 ? 'next to nothing' : pointsInWords(lostPoints) }}.
          </li>
        </ul>
      </div>
    </div>
    <button type="button" class="button" @click="editing.setEfforts(keepingUp.lighter)">
      {{ action }}
    </button>
  </div>
</template>
