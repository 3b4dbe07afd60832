<script setup lang="ts">
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { useRunSheetStore } from '~/stores/runSheet'

/** Something else comes first; it can be done all the same, knowingly. */
const sheet = useRunSheetStore()
const close = (): void => {
  sheet.asked = null
}
</script>

<template>
  <ModalDialog v-if="sheet.asked" title="Something comes first" @close="close">
    <p class="text-lg">{{ sheet.asked.task.title }}</p>
    <p class="mt-2">{{ sheet.asked.words }}</p>
    <div class="mt-4 flex justify-end gap-2">
      <button type="button" class="button" @click="sheet.tickAllTheSame()">
        It is done all the same
      </button>
      <button type="button" class="button button-primary" @click="close">Not yet</button>
    </div>
  </ModalDialog>
</template>
