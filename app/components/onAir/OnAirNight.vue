<script setup lang="ts">
import { Flag } from '@lucide/vue'
import { defineAsyncComponent } from 'vue'
import { offerCommands } from '~/commands/commands'
import DueNow from '~/components/night/DueNow.vue'
import { useMarking } from '~/components/night/marking'
import { useRunSheetStore } from '~/stores/runSheet'

const OutOfOrderDialog = defineAsyncComponent(
  () => import('~/components/night/OutOfOrderDialog.vue'),
)

/** What is due now, and marks, while a night is under way. */
const sheet = useRunSheetStore()
const mark = useMarking()

offerCommands([
  {
    id: 'on-air.mark',
    label: 'Mark this moment',
    group: 'On air',
    keys: 'm',
    isPossible: () => sheet.isOn,
    run: () => mark(0),
  },
  {
    id: 'on-air.tick',
    label: 'What is due now is done',
    group: 'On air',
    keys: 'd',
    isPossible: () => sheet.isOn && sheet.due.now.length > 0,
    run: () => {
      const [task] = sheet.due.now
      if (task) sheet.tick(task)
    },
  },
])
</script>

<template>
  <div v-if="sheet.isOn" class="flex shrink-0 items-stretch gap-2">
    <DueNow class="min-w-0 grow" is-band />
    <button type="button" class="button" @click="mark(0)">
      <Flag class="size-4" /> Mark <kbd class="text-xs">M</kbd>
    </button>
  </div>
  <OutOfOrderDialog v-if="sheet.asked" />
</template>
