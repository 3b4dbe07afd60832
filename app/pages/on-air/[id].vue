<script setup lang="ts">
import { definePageMeta, useHead } from '#imports'
import { useIntervalFn } from '@vueuse/core'
import { onBeforeUnmount, ref, watch } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { wordsFor } from '~/api/problem'
import { listenForKeys } from '~/commands/keys'
import OnAirWindow from '~/components/onAir/OnAirWindow.vue'
import { missingForOnAir } from '~/stores/onAir'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'

definePageMeta({ path: '/shows/:id/on-air' })

/** The window that holds the devices and draws both canvases as they go out. */
const route = useRoute()
const store = useShowStore()
const sheet = useRunSheetStore()
const problem = ref('')
const isPlainHttp = !globalThis.isSecureContext
const missing = missingForOnAir()

watch(
  () => String(route.params.id),
  async (id) => {
    try {
      await store.open(id)
      await sheet.open()
    } catch (error) {
      problem.value = wordsFor(error)
    }
  },
  { immediate: true },
)
onBeforeUnmount(() => {
  sheet.close()
  void store.close()
})
const lookEveryMilliseconds = 2000
useIntervalFn(() => void store.lookElsewhere(), lookEveryMilliseconds)
useHead({
  title: () => (store.isOpen ? `On air: ${store.show.title}` : 'On air'),
  htmlAttrs: { class: 'night' },
})
listenForKeys()
</script>

<template>
  <main v-if="problem || isPlainHttp || missing.length > 0" class="mx-auto max-w-xl p-12">
    <h1 class="text-2xl">Nothing can be drawn here</h1>
    <p v-if="problem" role="alert" class="mt-2">{{ problem }}</p>
    <p v-else-if="isPlainHttp" class="mt-2">
      This page came over plain HTTP from another computer, and browsers give such a page no camera,
      no microphone and no encoder. Open it on the computer that Green Mantle runs on, or put a
      proxy with HTTPS in front of the server.
    </p>
    <p v-else class="mt-2">
      This browser lacks {{ missing.join(', ') }}. A current Chromium has all of it; the canvases
      can also come from a program of your own, a film or the test picture, as Run sheet offers.
    </p>
    <RouterLink :to="`/shows/${route.params.id}/run-sheet`" class="link mt-4 inline-block"
      >Run sheet</RouterLink
    >
  </main>
  <OnAirWindow v-else-if="store.isOpen" />
  <p v-else role="status" class="p-12">Opening the show …</p>
</template>
