<script setup lang="ts">
import { listInWords, mediumNames, wholeNumber } from '@green-mantle/core/words'
import { MoonStar, RotateCcw, Square } from '@lucide/vue'
import { computed, defineAsyncComponent, onBeforeUnmount, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { offerCommands } from '~/commands/commands'
import CleanLimitsFields from '~/components/rehearse/CleanLimitsFields.vue'
import IncidentsCard from '~/components/rehearse/IncidentsCard.vue'
import ManyNightsCard from '~/components/rehearse/ManyNightsCard.vue'
import NightLog from '~/components/rehearse/NightLog.vue'
import RehearsalWays from '~/components/rehearse/RehearsalWays.vue'
import RemediesCard from '~/components/rehearse/RemediesCard.vue'
import TakeAwayMenu from '~/components/rehearse/TakeAwayMenu.vue'
import TogetherCard from '~/components/rehearse/TogetherCard.vue'
import InTurn from '~/components/frame/InTurn.vue'
import { useTimeAxis } from '~/components/rehearse/timeAxis'
import { nightsWanted, useRehearsalStore } from '~/stores/rehearsal'
import { useShowStore } from '~/stores/show'

// ECharts is loaded where it is first needed.
const HeadroomCard = defineAsyncComponent(() => import('~/components/rehearse/HeadroomCard.vue'))
const NightCard = defineAsyncComponent(() => import('~/components/rehearse/NightCard.vue'))

const store = useShowStore()
const rehearsal = useRehearsalStore()
const { seconds, clock } = useTimeAxis()

watch(
  () => store.isOpen,
  (isOpen) => {
    if (isOpen) rehearsal.want()
  },
  { immediate: true },
)
onBeforeUnmount(() => rehearsal.leave())

const many = computed(() => rehearsal.many)
const isKnown = computed(() => many.value.nights > 0 && rehearsal.isOfThisPlan)
const title = computed(() => {
  if (rehearsal.missing.length > 0) return 'Nothing to rehearse yet'
  if (isKnown.value) return `Clean on ${Math.floor(100 * many.value.share.share)} of 100 nights`
  const { last } = store.show.rehearsal
  if (!last) return 'Not rehearsed yet'
  return last.planKey === rehearsal.key
    ? `Clean on ${Math.floor((100 * last.clean) / last.nights)} of 100 nights`
    : 'The plan changed since it was rehearsed'
})
const tone = computed(() => {
  if (!isKnown.value) return 'text-ink'
  return 100 * many.value.share.share >= store.show.rehearsal.wantedPercent
    ? 'text-moss'
    : 'text-ochre'
})
const about = computed(() => {
  const { clean } = store.show.rehearsal
  const meaning = `Clean: nobody loses over ${clean.lostPercent} % of frames, is away over ${clean.awaySeconds} s or behind by over ${clean.behindSeconds} s.`
  if (!isKnown.value) return meaning
  const { low, high } = many.value.share
  const by = store.line.medium ? `by ${mediumNames[store.line.medium]}, ` : ''
  return `${wholeNumber(many.value.nights)} nights on ${store.line.name || 'this line'}, ${by}from ${clock(0, 'HH:mm')} to ${clock(seconds.value, 'HH:mm')}. Between ${(100 * low).toFixed(0)} and ${(100 * high).toFixed(0)} with 95 % certainty, by what these nights are drawn from. ${meaning}`
})

offerCommands([
  {
    id: 'rehearse.run',
    label: `Run ${wholeNumber(nightsWanted)} nights`,
    group: 'Rehearse',
    keys: 'r',
    run: () => void rehearsal.runAll(),
  },
  {
    id: 'rehearse.stop',
    label: 'Stop running nights',
    group: 'Rehearse',
    isPossible: () => rehearsal.running !== undefined,
    run: () => rehearsal.stop(),
  },
  {
    id: 'rehearse.another',
    label: 'Another night',
    group: 'Rehearse',
    keys: 'a',
    run: () => void rehearsal.another(),
  },
  {
    id: 'rehearse.headroom',
    label: 'How much headroom is enough',
    group: 'Rehearse',
    run: () => void rehearsal.findHeadroom(),
  },
  {
    id: 'rehearse.together',
    label: 'Headroom and who gives way, together',
    group: 'Rehearse',
    run: () => void rehearsal.findTogether(),
  },
])
</script>

<template>
  <div class="roomy:h-full roomy:overflow-y-auto flex flex-col gap-3 p-4">
    <div class="flex shrink-0 flex-wrap items-start justify-end gap-x-3 gap-y-2">
      <div class="min-w-72 flex-1">
        <h2 class="text-2xl" :class="tone">{{ title }}</h2>
        <p class="text-ink-2 text-xs">{{ about }}</p>
        <p v-if="rehearsal.problem" role="alert" class="text-madder">{{ rehearsal.problem }}</p>
      </div>
      <RehearsalWays />
      <CleanLimitsFields />
      <template v-if="rehearsal.missing.length === 0">
        <TakeAwayMenu />
        <button type="button" class="button" @click="rehearsal.another()">
          <RotateCcw class="size-4" /> Another night
        </button>
        <button
          v-if="rehearsal.running === 'nights'"
          type="button"
          class="button"
          @click="rehearsal.stop()"
        >
          <Square class="size-4" /> Stop at {{ wholeNumber(many.nights) }} of
          {{ wholeNumber(nightsWanted) }}
        </button>
        <button v-else type="button" class="button button-primary" @click="rehearsal.runAll()">
          <MoonStar class="size-4" /> Run {{ wholeNumber(nightsWanted) }} nights
        </button>
      </template>
    </div>
    <p v-if="rehearsal.missing.length > 0">
      A night needs {{ listInWords(rehearsal.missing) }}.
      <RouterLink class="link" :to="`/shows/${store.id}/line`">Go to Line</RouterLink> or
      <RouterLink class="link" :to="`/shows/${store.id}/destinations`">to Destinations</RouterLink>.
    </p>
    <div
      v-else
      class="roomy:grid-cols-[minmax(0,1fr)_17rem] roomy:xl:grid-cols-[minmax(0,1fr)_21rem] grid shrink-0 grid-cols-[minmax(0,1fr)] items-start gap-3"
    >
      <div class="flex min-w-0 flex-col gap-3">
        <NightCard v-if="rehearsal.looked" :looked="rehearsal.looked" />
        <p v-else role="status" class="card p-4">Computing a night …</p>
        <div class="roomy:grid-cols-2 grid grid-cols-[minmax(0,1fr)] items-start gap-3">
          <InTurn><NightLog v-if="rehearsal.looked" :looked="rehearsal.looked" /></InTurn>
          <InTurn><ManyNightsCard /></InTurn>
        </div>
      </div>
      <div class="flex flex-col gap-3">
        <InTurn><HeadroomCard /></InTurn>
        <InTurn><TogetherCard /></InTurn>
        <InTurn><RemediesCard /></InTurn>
        <InTurn><IncidentsCard /></InTurn>
      </div>
    </div>
  </div>
</template>
