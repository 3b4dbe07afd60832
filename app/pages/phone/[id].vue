<script setup lang="ts">
import { useHead } from '#imports'
import { dueTasks, isDone, type OrderedTask, outOfOrder } from '@green-mantle/core/night'
import { Flag, History } from '@lucide/vue'
import { useIntervalFn } from '@vueuse/core'
import { nanoid } from 'nanoid'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef } from 'vue'
import { useRoute } from 'vue-router'
import { fetchNightSheet, type NightSheet } from '~/api/night'
import { wordsFor } from '~/api/problem'
import SelectField from '~/components/fields/SelectField.vue'
import { clockOrDays, dayAndTime } from '~/components/night/nightTimes'
import { useNight } from '~/composables/useNight'
import { useNightLogStore } from '~/stores/nightLog'

/** The night on a phone, or across the room: only what is due, next and late, large. */
const route = useRoute()
useNight()
const log = useNightLogStore()
const id = String(route.params.id)
const sheet = shallowRef<NightSheet>()
const problem = ref('')
const now = ref(new Date())
/** A task that something else comes before, and what that is. */
const asked = shallowRef<{ task: OrderedTask; words: string } | null>(null)

const sheetMilliseconds = 10_000
const backSeconds = 30
async function look(): Promise<void> {
  try {
    sheet.value = await fetchNightSheet(id)
    problem.value = ''
  } catch (error) {
    problem.value = wordsFor(error)
  }
}
useIntervalFn(() => void look(), sheetMilliseconds)
useIntervalFn(() => {
  now.value = new Date(log.nowOnServer())
}, 1000)
onMounted(async () => {
  await look()
  await log.open(id)
})
onBeforeUnmount(() => log.close())
useHead({
  title: () => sheet.value?.title ?? 'The night',
  // The right is in the address: it goes nowhere from here.
  meta: [{ name: 'referrer', content: 'no-referrer' }],
})

const startsAt = computed(() => new Date(sheet.value?.startsAt ?? 0))
const order = computed(() => ({ tasks: sheet.value?.tasks ?? [] }))
const done = computed(() => isDone(log.state, new Set(sheet.value?.known ?? [])))
const seconds = computed(() => (now.value.getTime() - startsAt.value.getTime()) / 1000)
const due = computed(() => dueTasks(order.value, done.value, seconds.value))
const onAirAt = computed(() => log.state.ticks.get('on-air')?.at)
const clock = computed(() =>
  onAirAt.value ? (now.value.getTime() - Date.parse(onAirAt.value)) / 1000 : seconds.value,
)
const people = computed(() => [
  { value: '', label: 'nobody said' },
  ...(sheet.value?.people ?? []).map((name) => ({ value: name, label: name })),
])
const timeOf = ({ atSeconds }: OrderedTask): string =>
  dayAndTime(
    new Date(startsAt.value.getTime() + atSeconds * 1000),
    sheet.value?.timeZone ?? 'UTC',
    now.value,
  )

function say(task: OrderedTask, knowingly: boolean): void {
  asked.value = null
  log.happened({ kind: 'ticked', taskId: task.id, title: task.title, knowingly })
}
function tick(task: OrderedTask): void {
  const words = outOfOrder(task, order.value, done.value)
  if (words === null) say(task, false)
  else asked.value = { task, words }
}
function mark(back: number): void {
  log.happened({
    kind: 'marked',
    markId: nanoid(12),
    name: '',
    sceneId: log.state.sceneId,
    backSeconds: back,
  })
}
</script>

<template>
  <main class="mx-auto flex min-h-dvh max-w-xl flex-col gap-4 p-4 text-lg">
    <h1 class="text-xl">{{ sheet?.title ?? 'The night' }}</h1>
    <p v-if="problem || log.problem" role="alert" class="text-madder">
      {{ problem || log.problem }}
    </p>
    <template v-if="sheet && log.isRead">
      <p class="text-center">
        <span class="text-ink-2 block text-base">{{
          onAirAt ? 'On air for' : clock < 0 ? 'On air in' : 'Should be on air since'
        }}</span>
        <span class="number text-5xl" role="timer">{{ clockOrDays(clock) }}</span>
      </p>
      <section
        class="bg-moss text-on-moss flex flex-col gap-3 rounded-xl p-4"
        aria-label="Due now"
        aria-live="polite"
      >
        <template v-if="asked">
          <h2 class="text-2xl">{{ asked.task.title }}</h2>
          <p>{{ asked.words }}</p>
          <button
            type="button"
            class="border-on-moss min-h-12 rounded-lg border px-4"
            @click="say(asked.task, true)"
          >
            It is done all the same
          </button>
          <button
            type="button"
            class="bg-sheet text-ink min-h-14 rounded-lg px-4 font-bold"
            @click="asked = null"
          >
            Not yet
          </button>
        </template>
        <template v-else-if="due.now[0]">
          <h2 class="text-3xl leading-tight">{{ due.now[0].title }}</h2>
          <p v-if="due.now[0].hint" class="text-base">{{ due.now[0].hint }}</p>
          <button
            type="button"
            class="bg-sheet text-ink min-h-14 rounded-lg px-4 text-xl font-bold"
            @click="tick(due.now[0])"
          >
            Done
          </button>
        </template>
        <h2 v-else class="text-2xl">Nothing is due now</h2>
      </section>
      <section v-if="due.now.length > 1 || due.next" aria-label="Next">
        <h2 class="text-base font-semibold">Next</h2>
        <ul>
          <li v-for="task in due.now.slice(1, 5)" :key="task.id" class="border-rule border-b py-1">
            <span class="number text-ink-2 text-sm">{{ timeOf(task) }}</span> {{ task.title }}
          </li>
          <li v-if="due.next" class="py-1">
            <span class="number text-ink-2 text-sm">{{ timeOf(due.next) }}</span>
            {{ due.next.title }}
          </li>
        </ul>
      </section>
      <details v-if="due.late.length > 0" class="text-ochre">
        <summary>Left undone before: {{ due.late.length }}</summary>
        <ul class="text-base">
          <li v-for="task in due.late" :key="task.id" class="flex items-center gap-2 py-1">
            <span class="min-w-0 grow">{{ task.title }}</span>
            <button type="button" class="button" @click="tick(task)">Done</button>
          </li>
        </ul>
      </details>
      <div class="mt-auto flex flex-wrap gap-2">
        <button type="button" class="button min-h-14 grow" @click="mark(0)">
          <Flag class="size-5" /> Mark now
        </button>
        <button type="button" class="button min-h-14" @click="mark(backSeconds)">
          <History class="size-5" /> Last {{ backSeconds }} s
        </button>
      </div>
      <p class="text-ink-2 text-sm" role="status">
        {{ log.state.marks.length }} marks.
        <template v-if="log.unkeptCount > 0"
          >Not kept by the server yet: {{ log.unkeptCount }}, tried again.</template
        >
        <template v-else-if="!log.isConnected">Not connected, tried again.</template>
      </p>
      <SelectField v-model="log.who" label="Ticked here by" :choices="people" />
    </template>
    <p v-else-if="!problem" role="status">Opening the night …</p>
  </main>
</template>
