<script setup lang="ts">
import { useHead } from '#imports'
import { instantInWords, startOf } from '@green-mantle/core/destinations'
import { rehearsalInWords } from '@green-mantle/core/rehearsal'
import { incidentInWords, logOf, lostOf } from '@green-mantle/core/simulation'
import { wholeNumber } from '@green-mantle/core/words'
import { Printer } from '@lucide/vue'
import { computed, defineAsyncComponent, onBeforeUnmount, onMounted, ref } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { wordsFor } from '~/api/problem'
import { useTimeAxis } from '~/components/rehearse/timeAxis'
import { useRehearsalStore } from '~/stores/rehearsal'
import { useShowStore } from '~/stores/show'

const NightChart = defineAsyncComponent(() => import('~/components/rehearse/NightChart.vue'))
const NightLanes = defineAsyncComponent(() => import('~/components/rehearse/NightLanes.vue'))

/** One rehearsed night on one page of paper. */
const route = useRoute()
const store = useShowStore()
const rehearsal = useRehearsalStore()
const { clock } = useTimeAxis()
const id = computed(() => String(route.params.id))
const problem = ref('')
/** More lines do not fit the page. */
const maxLines = 18

onMounted(async () => {
  try {
    await store.open(id.value)
    rehearsal.night = Math.max(0, Math.floor(Number(route.query.night ?? 1)) - 1) || 0
    rehearsal.want()
  } catch (error) {
    problem.value = wordsFor(error)
  }
})
onBeforeUnmount(() => {
  rehearsal.leave()
  store.close()
})
useHead({ title: () => (store.isOpen ? `${store.show.title}: a rehearsed night` : 'Report') })

const looked = computed(() => rehearsal.looked)
const log = computed(() => (looked.value ? logOf(looked.value.outcome) : []))
const leftOut = computed(
  () => Math.max(0, log.value.length - maxLines) + (looked.value?.outcome.eventsLeftOut ?? 0),
)
const print = (): void => window.print()
</script>

<template>
  <main class="mx-auto max-w-5xl p-8 print:p-0">
    <p v-if="problem" role="alert">{{ problem }}</p>
    <p v-else-if="!store.isOpen" role="status">Opening the show …</p>
    <template v-else>
      <div class="flex items-start gap-4">
        <div class="grow">
          <h1 class="text-2xl">{{ store.show.title }}: a rehearsed night</h1>
          <p>
            {{ instantInWords(startOf(store.show), store.show) }} ({{ store.show.timeZone }}),
            {{ store.show.durationMinutes }} min. {{ store.verdict.sentence
            }}<template v-if="rehearsalInWords(store.show)"
              >, {{ rehearsalInWords(store.show) }}</template
            >.
          </p>
        </div>
        <RouterLink :to="`/shows/${id}/rehearse`" class="button print:hidden"
          >Back to Rehearse</RouterLink
        >
        <button type="button" class="button button-primary print:hidden" @click="print">
          <Printer class="size-4" /> Print
        </button>
      </div>
      <p v-if="rehearsal.missing.length > 0" class="mt-4">There is nothing to rehearse yet.</p>
      <p v-else-if="!looked" role="status" class="mt-4">Computing the night …</p>
      <template v-else>
        <h2 class="mt-4 text-lg">
          Night {{ looked.outcome.night + 1 }} of seed {{ store.show.rehearsal.seed }}
        </h2>
        <p v-if="store.show.rehearsal.incidents.length > 0">
          With
          <span v-for="(incident, index) in store.show.rehearsal.incidents" :key="incident.id"
            >{{ index > 0 ? '; ' : '' }}{{ incidentInWords(incident, store.show) }} at
            {{ clock(incident.atSeconds) }}{{ incident.on ? '' : ' (switched off)' }}</span
          >.
        </p>
        <NightChart class="mt-2 h-44 w-full" :looked="looked" />
        <NightLanes :looked="looked" />
        <h2 class="mt-4 text-lg">What happened</h2>
        <ol class="text-xs">
          <li v-for="(line, index) in log.slice(0, maxLines)" :key="index">
            <span class="number">{{ clock(line.atSeconds) }}</span> <b>{{ line.who }}</b>
            {{ line.words }} {{ line.blame }}
          </li>
        </ol>
        <p v-if="log.length === 0">Nothing. Everybody got everything, on time.</p>
        <p v-if="leftOut > 0" class="text-xs">and {{ wholeNumber(leftOut) }} more.</p>
        <p class="mt-2 text-xs">
          Frames lost in all:
          {{
            looked.outcome.sends
              .map((send) => `${send.name} ${Math.round(lostOf(send))}`)
              .join(', ')
          }}. {{ looked.basis.join(' ') }}
        </p>
      </template>
    </template>
  </main>
</template>
