<script setup lang="ts">
import { useHead } from '#imports'
import { instantInWords } from '@green-mantle/core/destinations'
import { eventInWords } from '@green-mantle/core/night'
import { durationInWords } from '@green-mantle/core/words'
import { Printer } from '@lucide/vue'
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { wordsFor } from '~/api/problem'
import SelectField from '~/components/fields/SelectField.vue'
import NextShow from '~/components/night/NextShow.vue'
import TakeMarks from '~/components/night/TakeMarks.vue'
import WrappedLine from '~/components/night/WrappedLine.vue'
import WrappedSends from '~/components/night/WrappedSends.vue'
import { clockFace, inTimeInWords, saidAt, signedClockFace } from '~/components/night/nightTimes'
import { provideWrappedNight } from '~/components/night/wrappedNight'
import { useNight } from '~/composables/useNight'
import { useNightLogStore } from '~/stores/nightLog'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'

/** What was planned against what happened, as a page to print. */
const route = useRoute()
const store = useShowStore()
const sheet = useRunSheetStore()
const log = useNightLogStore()
const id = computed(() => String(route.params.id))
useNight()
const problem = ref('')
const {
  wrapped,
  state,
  plannedShow,
  isLast,
  isShowKept,
  chosen,
  choose,
  beginnings,
  problem: logProblem,
  load,
} = provideWrappedNight()
onMounted(async () => {
  try {
    await store.open(id.value)
    await sheet.open()
    await load()
  } catch (error) {
    problem.value = wordsFor(error)
  }
})
onBeforeUnmount(() => {
  sheet.close()
  store.close()
})
useHead({ title: () => (store.isOpen ? `${store.show.title}: wrap-up` : 'Wrap-up') })

/** One of the nights that were kept of this show. */
const nightChoices = computed(() => [
  { value: -1, label: 'the last one' },
  ...beginnings.value
    .map((at, index) => ({ value: index, label: instantInWords(new Date(at), store.show) }))
    .toReversed(),
])
const time = (iso: string | null): string => saidAt(iso, plannedShow.value.timeZone)
const entries = computed(() =>
  state.value.events.flatMap((event) => {
    const words = eventInWords(event)
    return words ? [{ id: event.id, at: event.at, words, who: event.who }] : []
  }),
)
/** Before anything was kept of it, a night has nothing to be wrapped up. */
const hasHappened = computed(() => entries.value.length > 0)
const zero = computed(() => wrapped.value.onAirAt ?? wrapped.value.begunAt)
const sinceStart = (iso: string): string =>
  zero.value ? signedClockFace((Date.parse(iso) - Date.parse(zero.value)) / 1000) : ''
const print = (): void => window.print()
</script>

<template>
  <main class="mx-auto max-w-5xl p-8 print:max-w-none print:p-0">
    <p v-if="problem || log.problem || logProblem" role="alert">
      {{ problem || log.problem || logProblem }}
    </p>
    <p v-else-if="!store.isOpen || !log.isRead" role="status">Opening the night …</p>
    <template v-else>
      <div class="flex flex-wrap items-start gap-3">
        <div class="min-w-64 flex-1">
          <h1 class="text-2xl">{{ plannedShow.title }}: wrap-up</h1>
          <p v-if="wrapped.begunAt">
            {{ instantInWords(new Date(wrapped.begunAt), plannedShow) }}.
            <template v-if="wrapped.onAirAt">
              On air at {{ time(wrapped.onAirAt)
              }}<template v-if="wrapped.startLateSeconds !== null"
                >, {{ inTimeInWords(wrapped.startLateSeconds) }}</template
              >.</template
            >
            <template
              v-if="wrapped.ranLongSeconds !== null && Math.abs(wrapped.ranLongSeconds) >= 60"
            >
              It ran {{ durationInWords(Math.abs(wrapped.ranLongSeconds)) }}
              {{ wrapped.ranLongSeconds > 0 ? 'longer' : 'shorter' }} than planned.</template
            >
          </p>
          <p v-else>
            This night has not begun: what is kept of it will stand here, held against what was
            planned.
          </p>
          <p v-if="!isLast" class="text-ink-2">
            An earlier night, held against the show as it
            {{ isShowKept ? 'stood when the next was begun' : 'is now; its order was not kept' }}.
          </p>
        </div>
        <SelectField
          v-if="beginnings.length > 0"
          class="w-64 print:hidden"
          label="Night"
          :model-value="chosen ?? -1"
          :choices="nightChoices"
          @update:model-value="choose($event < 0 ? null : $event)"
        />
        <RouterLink :to="`/shows/${id}/run-sheet`" class="button print:hidden"
          >Back to the run sheet</RouterLink
        >
        <button type="button" class="button button-primary print:hidden" @click="print">
          <Printer class="size-4" /> Print
        </button>
      </div>

      <template v-if="hasHappened">
        <h2 class="mt-5 text-lg">What to change</h2>
        <ul v-if="wrapped.toChange.length > 0" class="list-disc pl-5">
          <li v-for="words in wrapped.toChange" :key="words">{{ words }}</li>
        </ul>
        <p v-else>Nothing that was kept of the night asks for it.</p>
      </template>

      <template v-if="hasHappened && wrapped.sends.length > 0">
        <h2 class="mt-5 text-lg">Sends, as they were ticked</h2>
        <WrappedSends />
      </template>

      <WrappedLine v-if="wrapped.line.length + wrapped.encoded.length > 0" />

      <template v-if="wrapped.recordings.length > 0">
        <h2 class="mt-5 text-lg">Recorded here</h2>
        <ul>
          <li v-for="each in wrapped.recordings" :key="each.file" class="wrap-anywhere">
            {{ each.name }}:
            {{ each.seconds === null ? 'cannot be read' : clockFace(each.seconds) }},
            <span class="number text-sm">{{ each.file }}</span>
          </li>
        </ul>
      </template>

      <template v-if="wrapped.marks.length > 0">
        <h2 class="mt-5 text-lg">Marks</h2>
        <TakeMarks class="print:hidden" />
        <ul>
          <li v-for="(mark, index) in wrapped.marks" :key="mark.id">
            <span class="number">{{ sinceStart(mark.from) }}</span>
            {{ mark.name || `Mark ${index + 1}` }}
          </li>
        </ul>
      </template>

      <template
        v-if="hasHappened && isLast && wrapped.notDone.length + wrapped.outOfOrder.length > 0"
      >
        <h2 class="mt-5 text-lg">Left undone, or out of order</h2>
        <p v-if="wrapped.notDone.length > 0">Not ticked: {{ wrapped.notDone.join('; ') }}.</p>
        <p v-if="wrapped.outOfOrder.length > 0">
          Before something that comes first: {{ wrapped.outOfOrder.join('; ') }}.
        </p>
      </template>

      <NextShow v-if="isLast" class="mt-5 print:hidden" />

      <h2 v-if="hasHappened" class="mt-5 text-lg">Kept as it happened</h2>
      <ol v-if="hasHappened" class="sm:columns-2">
        <li
          v-for="{ id: key, at, words, who } in entries"
          :key="key"
          class="break-inside-avoid text-sm"
        >
          <span class="number">{{ time(at) }}</span> {{ words
          }}<span v-if="who" class="text-ink-2"> · {{ who }}</span>
        </li>
      </ol>
    </template>
  </main>
</template>
