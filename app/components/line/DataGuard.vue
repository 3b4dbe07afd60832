<script setup lang="ts">
import { dataUse } from '@green-mantle/core/network'
import type { DataCap } from '@green-mantle/core/show'
import { durationInWords, gigabytesInWords, secondsFromMinutes } from '@green-mantle/core/words'
import { computed } from 'vue'
import QuantityField from '~/components/fields/QuantityField.vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import { useShowStore } from '~/stores/show'
import { useLineEditing } from './lineEditing'

/** Whether what a contract for mobile data allows lasts to the end of the show. */
const store = useShowStore()
const editing = useLineEditing()
const firstCap: DataCap = { gigabytes: 20, usedGigabytes: 0 }
const use = computed(() => {
  const { dataCap } = store.line
  if (!dataCap) return undefined
  const { totalKbps, upload } = store.verdict.budget
  const seconds = secondsFromMinutes(store.show.durationMinutes)
  return dataUse(totalKbps + upload.otherTrafficKbps, seconds, dataCap)
})

function set(changes: Partial<DataCap>): void {
  editing.change('Set the data cap', (line) => {
    if (line.dataCap) Object.assign(line.dataCap, changes)
  })
}
</script>

<template>
  <section class="card p-4" aria-labelledby="data-title">
    <div class="flex items-center justify-between">
      <h2 id="data-title" class="text-lg">Counted data</h2>
      <OnSwitch
        label="Data on this line is counted"
        :model-value="store.line.dataCap !== null"
        @update:model-value="
          editing.change(
            $event ? 'Count the data' : 'Stop counting the data',
            (line) => void (line.dataCap = $event ? { ...firstCap } : null),
          )
        "
      />
    </div>
    <p v-if="!store.line.dataCap" class="text-ink-2 text-xs">
      Switch this on for a contract with a limit, as phones have, to see when it would run out.
    </p>
    <template v-else>
      <div class="mt-2 grid grid-cols-2 gap-2">
        <QuantityField
          quantity="data allowed"
          label="The contract allows"
          :model-value="store.line.dataCap.gigabytes"
          @update:model-value="set({ gigabytes: $event })"
        />
        <QuantityField
          quantity="data used"
          label="Used already"
          :model-value="store.line.dataCap.usedGigabytes"
          @update:model-value="set({ usedGigabytes: $event })"
        />
      </div>
      <p v-if="use" class="mt-2" :class="use.runsOutAfterSeconds === null ? '' : 'text-madder'">
        The show takes {{ gigabytesInWords(use.showGigabytes) }} of the
        {{ gigabytesInWords(use.leftGigabytes) }} left<template
          v-if="use.runsOutAfterSeconds !== null"
          >: it runs out {{ durationInWords(use.runsOutAfterSeconds) }} after the start.</template
        ><template v-else>.</template>
      </p>
    </template>
  </section>
</template>
