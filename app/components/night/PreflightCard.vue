<script setup lang="ts">
import { sceneChecks } from '@green-mantle/core/canvas'
import { preflight } from '@green-mantle/core/night'
import { ArrowRight, RefreshCw } from '@lucide/vue'
import { computed, onMounted, ref } from 'vue'
import { RouterLink } from 'vue-router'
import StateMark from '~/components/frame/StateMark.vue'
import ScrollBox from '~/components/frame/ScrollBox.vue'
import { nextFrame, useInTurn } from '~/composables/inTurn'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'
import { timeOfDay } from './nightTimes'
import { usePreflightFacts } from './preflightFacts'

/** Everything that can be known before the night, looked at once more. */
const show = useShowStore()
const sheet = useRunSheetStore()
const { facts, checkedAt, isLooking, look } = usePreflightFacts()
/** Whether every scene was looked at: many take long, and the page is used meanwhile. */
const isReady = ref(false)
async function lookThroughScenes(): Promise<void> {
  for (const { id } of show.show.scenes) {
    await nextFrame()
    // Edited meanwhile, it is another scene.
    const scene = show.isOpen && show.show.scenes.find((each) => each.id === id)
    if (scene) sceneChecks(show.show, scene)
  }
  isReady.value = true
}
onMounted(() => {
  void look()
  void lookThroughScenes()
})

const checks = computed(() => (isReady.value ? preflight(show.show, sheet.order, facts.value) : []))
const rowsPerTurn = 15
const shown = useInTurn(() => checks.value, rowsPerTurn)
const open = computed(() => checks.value.filter(({ tone }) => tone !== 'right'))
const fails = computed(() => open.value.filter(({ tone }) => tone === 'fails').length)
const sentence = computed(() => {
  if (!isReady.value) return 'looking'
  if (open.value.length === 0) return 'Everything that can be known is right'
  if (fails.value > 0) return `${fails.value} of ${checks.value.length} would fail`
  return `${open.value.length} of ${checks.value.length} want a look`
})
const pageNames = {
  canvases: 'Canvases',
  sound: 'Sound',
  line: 'Line',
  destinations: 'Destinations',
  fit: 'Fit',
  encoders: 'Encoders',
  rehearse: 'Rehearse',
} as const
const marks = { right: 'settled', attention: 'attention', fails: 'fails' } as const
</script>

<template>
  <section
    class="card flex max-h-96 min-h-48 shrink-0 flex-col p-3"
    aria-labelledby="preflight-title"
  >
    <div class="flex flex-wrap items-center gap-x-2">
      <h2 id="preflight-title" class="grow text-lg">Before you begin: {{ sentence }}</h2>
      <span class="text-ink-2 text-xs"
        >looked at {{ timeOfDay(checkedAt, show.show.timeZone) }}</span
      >
      <button type="button" class="button" :disabled="isLooking" @click="look">
        <RefreshCw class="size-4" /> Look again
      </button>
    </div>
    <ScrollBox class="mt-1" label="Checks"
      ><ul>
        <li
          v-for="{ id, tone, words, page } in shown"
          :key="id"
          class="border-rule flex items-center gap-2 border-b py-1"
        >
          <StateMark :state="marks[tone]" />
          <span class="min-w-0 grow" :class="tone === 'right' ? 'text-ink-2' : ''">
            <span class="sr-only"
              >{{ { right: 'Right', attention: 'Look at', fails: 'Fails' }[tone] }}: </span
            >{{ words }}</span
          >
          <RouterLink
            v-if="tone !== 'right'"
            class="link inline-flex shrink-0 items-center gap-1 text-sm"
            :to="`/shows/${show.id}/${page}`"
            >{{ pageNames[page] }} <ArrowRight class="size-3.5"
          /></RouterLink>
        </li></ul
    ></ScrollBox>
  </section>
</template>
