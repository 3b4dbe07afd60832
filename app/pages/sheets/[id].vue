<script setup lang="ts">
import { useHead } from '#imports'
import { instantInWords, startOf, wordsAt } from '@green-mantle/core/destinations'
import { verdictOf } from '@green-mantle/core/fit'
import { settingsSheetRows } from '@green-mantle/core/formats'
import type { Show } from '@green-mantle/core/show'
import { Printer } from '@lucide/vue'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { wordsFor } from '~/api/problem'
import { fetchShow } from '~/api/shows'

/** The settings of every send on paper, with what is said and pressed where. Keys are left out. */
const route = useRoute()
const id = computed(() => String(route.params.id))
const show = shallowRef<Show>()
const problem = ref('')
useHead({ title: () => (show.value ? `${show.value.title}: settings` : 'Settings') })

onMounted(async () => {
  try {
    show.value = (await fetchShow(id.value)).show
  } catch (error) {
    problem.value = wordsFor(error)
  }
})

/** Turned round: a column a send, since there are more settings than sends. */
const table = computed(() => {
  const [names = [], ...sends] = show.value ? settingsSheetRows(show.value) : []
  return names.map((name, index) => ({ name, values: sends.map((send) => send[index] ?? '') }))
})
const on = computed(() => show.value?.destinations.filter((each) => each.on) ?? [])
const verdict = computed(() => show.value && verdictOf(show.value).sentence)
const print = (): void => window.print()
</script>

<template>
  <main class="mx-auto max-w-5xl p-8">
    <p v-if="problem" role="alert">{{ problem }}</p>
    <template v-else-if="show">
      <div class="flex items-start gap-4">
        <div class="grow">
          <h1 class="text-3xl">{{ show.title }}</h1>
          <p>
            {{ instantInWords(startOf(show), show) }} ({{ show.timeZone }}),
            {{ show.durationMinutes }} min. {{ verdict }}.
          </p>
        </div>
        <RouterLink :to="`/shows/${id}/fit`" class="button print:hidden"
          >Back to the show</RouterLink
        >
        <button type="button" class="button button-primary print:hidden" @click="print">
          <Printer class="size-4" /> Print
        </button>
      </div>
      <h2 class="mt-6 mb-1 text-xl">Settings of every send and recording</h2>
      <div class="overflow-x-auto" tabindex="0" role="region" aria-label="Settings of every send">
        <table class="w-full text-xs">
          <tbody>
            <tr v-for="{ name, values } in table" :key="name" class="border-rule border-b">
              <th scope="row" class="py-1 pr-3">{{ name }}</th>
              <td
                v-for="(value, index) in values"
                :key="index"
                class="number py-1 pr-3 align-top break-words"
              >
                {{ value }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <h2 class="mt-6 mb-1 text-xl">On the night</h2>
      <table class="w-full text-xs">
        <thead>
          <tr class="border-ink border-b">
            <th class="py-1 pr-3">Destination</th>
            <th class="pr-3">Title there</th>
            <th class="pr-3">Audience</th>
            <th class="pr-3">Key</th>
            <th class="pr-3">Start</th>
            <th class="pr-3">End</th>
            <th>Chat</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="each in on" :key="each.id" class="border-rule border-b align-top">
            <th scope="row" class="py-1 pr-3">{{ each.name }}</th>
            <td class="pr-3">{{ wordsAt(show, each).title }}</td>
            <td class="pr-3">{{ wordsAt(show, each).audience }}</td>
            <td class="pr-3">{{ each.rules.key.life }}</td>
            <td class="pr-3">{{ each.rules.start }}</td>
            <td class="pr-3">{{ each.rules.end }}</td>
            <td>
              {{ each.rules.chat
              }}<template v-if="each.chatReadBy">, {{ each.chatReadBy }}</template>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
    <p v-else role="status">Opening the sheet …</p>
  </main>
</template>
