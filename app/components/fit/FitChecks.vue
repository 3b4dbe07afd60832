<script setup lang="ts">
import type { Breach, Saving } from '@green-mantle/core/fit'
import { kbpsInWords, mbpsInWords, mbpsNumber } from '@green-mantle/core/words'
import { TriangleAlert } from '@lucide/vue'
import { computed } from 'vue'
import StateMark from '~/components/frame/StateMark.vue'
import { useDestinationEditing } from '~/components/destinations/destinationEditing'
import { useShowStore } from '~/stores/show'

const store = useShowStore()
const editing = useDestinationEditing()
const verdict = computed(() => store.verdict)
const upload = computed(() => verdict.value.budget.upload)

function mend({ destinationId, renditionId, remedy }: Breach): void {
  if (remedy) editing.changeRendition(destinationId, renditionId, remedy.words, remedy.changes)
}

function save(saving: Saving): void {
  const { destinationId, renditionId, toVideoBitrateKbps } = saving
  if (toVideoBitrateKbps === null)
    editing.change(destinationId, 'Switch off', (destination) => {
      destination.on = false
    })
  else
    editing.changeRendition(destinationId, renditionId, 'Save on', {
      videoBitrateKbps: toVideoBitrateKbps,
    })
}

const points = (saving: Saving): number =>
  Math.round(saving.scoreBefore) - Math.round(saving.scoreAfter)
</script>

<template>
  <div class="flex flex-col gap-3">
    <dl class="grid grid-cols-[1fr_auto] gap-y-1">
      <template v-for="send in verdict.budget.sends" :key="send.key">
        <dt class="truncate">{{ send.name }}</dt>
        <dd class="number text-right">{{ mbpsNumber(send.wireRateKbps) }}</dd>
      </template>
      <dt class="border-rule border-t pt-1 font-semibold">All sends</dt>
      <dd class="number border-rule border-t pt-1 text-right font-semibold">
        {{ mbpsNumber(verdict.budget.totalKbps) }}
      </dd>
      <dt>Usable upload</dt>
      <dd class="number text-right">{{ mbpsNumber(upload.usableKbps) }}</dd>
      <dt class="font-semibold">{{ verdict.budget.spareKbps < 0 ? 'Too much' : 'Spare' }}, Mb/s</dt>
      <dd
        class="number text-right font-semibold"
        :class="verdict.budget.spareKbps < 0 ? 'text-madder' : 'text-moss'"
      >
        {{ mbpsNumber(Math.abs(verdict.budget.spareKbps)) }}
      </dd>
    </dl>

    <section v-if="verdict.savings.length > 0" aria-label="Where to save">
      <h4 class="mb-1 text-sm">Where to save {{ mbpsInWords(-verdict.budget.spareKbps) }}</h4>
      <ul>
        <li
          v-for="saving in verdict.savings"
          :key="saving.renditionId"
          class="border-rule flex items-center justify-between gap-2 border-b py-1"
        >
          <span v-if="saving.toVideoBitrateKbps !== null"
            >{{ saving.name }} at {{ kbpsInWords(saving.toVideoBitrateKbps) }}:
            {{ points(saving) }} points less</span
          >
          <span v-else>{{ saving.name }} off</span>
          <button type="button" class="button" @click="save(saving)">
            {{ saving.toVideoBitrateKbps === null ? 'Switch off' : 'Lower' }}
            <span class="sr-only">{{ saving.name }}</span>
          </button>
        </li>
      </ul>
    </section>

    <section aria-label="Rules">
      <ul v-if="verdict.breaches.length > 0">
        <li
          v-for="breach in verdict.breaches"
          :key="`${breach.renditionId} ${breach.rule}`"
          class="border-rule flex items-center justify-between gap-2 border-b py-1"
        >
          <span class="flex gap-1.5"
            ><TriangleAlert class="text-ochre mt-0.5 size-4 shrink-0" />{{ breach.words }}</span
          >
          <button v-if="breach.remedy" type="button" class="button" @click="mend(breach)">
            {{ breach.remedy.words }}
          </button>
        </li>
      </ul>
      <p v-else class="flex items-center gap-2">
        <StateMark state="settled" /> Every destination’s rules are kept.
      </p>
    </section>
  </div>
</template>
