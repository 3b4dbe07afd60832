<script setup lang="ts">
import { useHead } from '#imports'
import { instantInWords, startOf, wordsAt } from '@green-mantle/core/destinations'
import { nightOrder } from '@green-mantle/core/night'
import { nightPhases, type Show } from '@green-mantle/core/show'
import { nightPhaseNames } from '@green-mantle/core/words'
import { Printer } from '@lucide/vue'
import { computed, onBeforeUnmount, onMounted, ref } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { wordsFor } from '~/api/problem'
import { otherDay, timeOfDay } from '~/components/night/nightTimes'
import { useShowStore } from '~/stores/show'

/** The order of the night on paper, with boxes to tick and the addresses; a key is never on it. */
const route = useRoute()
const store = useShowStore()
const id = computed(() => String(route.params.id))
const problem = ref('')
onMounted(async () => {
  try {
    await store.open(id.value)
  } catch (error) {
    problem.value = wordsFor(error)
  }
})
onBeforeUnmount(() => store.close())
useHead({ title: () => (store.isOpen ? `${store.show.title}: run sheet` : 'Run sheet') })

const startsAt = computed(() => startOf(store.show))
const phases = computed(() => {
  const { tasks } = nightOrder(store.show)
  const personOf = ({ runSheet }: Show, personId: string | null): string =>
    runSheet.people.find((person) => person.id === personId)?.name ?? ''
  return nightPhases
    .map((phase) => ({
      phase,
      tasks: tasks
        .filter((task) => task.phase === phase)
        .map(({ id: taskId, title, atSeconds, personId }) => {
          const at = new Date(startsAt.value.getTime() + atSeconds * 1000)
          return {
            id: taskId,
            title,
            day: otherDay(at, store.show.timeZone, startsAt.value),
            time: timeOfDay(at, store.show.timeZone),
            person: personOf(store.show, personId),
          }
        }),
    }))
    .filter((group) => group.tasks.length > 0)
})
const addresses = computed(() =>
  store.show.destinations
    .filter(({ on }) => on)
    .map((destination) => ({
      id: destination.id,
      name: destination.name,
      sent: destination.relayId === null ? destination.serverAddress : 'fed by a relay',
      chat: destination.chatAddress,
      title: wordsAt(store.show, destination).title,
    })),
)
const print = (): void => window.print()
</script>

<template>
  <main class="mx-auto max-w-5xl p-8 print:max-w-none print:p-0 print:text-[9.5pt]">
    <p v-if="problem" role="alert">{{ problem }}</p>
    <p v-else-if="!store.isOpen" role="status">Opening the show …</p>
    <template v-else>
      <div class="flex items-start gap-4">
        <div class="grow">
          <h1 class="text-2xl print:text-lg">{{ store.show.title }}: run sheet</h1>
          <p>
            {{ instantInWords(startsAt, store.show) }} ({{ store.show.timeZone }}),
            {{ store.show.durationMinutes }} min
          </p>
        </div>
        <RouterLink :to="`/shows/${id}/run-sheet`" class="button print:hidden"
          >Back to the run sheet</RouterLink
        >
        <button type="button" class="button button-primary print:hidden" @click="print">
          <Printer class="size-4" /> Print
        </button>
      </div>
      <div class="mt-3 gap-6 sm:columns-2">
        <section v-for="{ phase, tasks } in phases" :key="phase" class="mb-2">
          <h2 class="border-edge break-after-avoid border-b text-base font-semibold">
            {{ nightPhaseNames[phase] }}
          </h2>
          <ol>
            <li
              v-for="task in tasks"
              :key="task.id"
              class="flex break-inside-avoid items-baseline gap-2 py-0.5 leading-tight"
            >
              <span class="border-edge size-3 shrink-0 translate-y-0.5 border" aria-hidden="true" />
              <span class="number min-w-11 shrink-0 text-xs whitespace-nowrap"
                >{{ task.time }}<span v-if="task.day" class="block">{{ task.day }}</span></span
              >
              <span class="min-w-0 grow">{{ task.title }}</span>
              <span class="text-ink-2 shrink-0 text-xs">{{ task.person }}</span>
            </li>
          </ol>
        </section>
      </div>
      <section class="mt-3 break-inside-avoid">
        <h2 class="border-edge border-b text-base font-semibold">Where it goes</h2>
        <ul>
          <li v-for="each in addresses" :key="each.id" class="py-0.5 leading-tight wrap-anywhere">
            <strong>{{ each.name }}</strong> “{{ each.title }}”
            <span class="number text-xs">{{ each.sent }}</span>
            <template v-if="each.chat">
              · chat <span class="number text-xs">{{ each.chat }}</span></template
            >
          </li>
        </ul>
      </section>
    </template>
  </main>
</template>
