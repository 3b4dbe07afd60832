<script setup lang="ts">
import { wallClockInWords } from '@green-mantle/core/words'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'
import { clockOrDays } from './nightTimes'

/** The night was to be begun days before its show. */
const show = useShowStore()
const sheet = useRunSheetStore()
const close = (): void => {
  sheet.asksToBegin = false
}
</script>

<template>
  <ModalDialog title="Begin it already now?" @close="close">
    <p>
      The show is on {{ wallClockInWords(show.show.startsAt, 'short') }}, in
      {{ clockOrDays(sheet.nowSeconds) }}. What happens from now on is kept in the log of its night;
      for a try, begin another night afterwards.
    </p>
    <div class="mt-4 flex justify-end gap-2">
      <button type="button" class="button" @click="sheet.begin(true)">Begin it all the same</button>
      <button type="button" class="button button-primary" @click="close">Not yet</button>
    </div>
  </ModalDialog>
</template>
