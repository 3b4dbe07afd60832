<script setup lang="ts">
import { logOf } from '@green-mantle/core/simulation'
import { wholeNumber } from '@green-mantle/core/words'
import { computed } from 'vue'
import type { LookedAtNight } from '~/workers/rehearsal.worker'
import { useTimeAxis } from './timeAxis'

/** What happened that night, in words, with whose fault it was. */
const props = defineProps<{ looked: LookedAtNight }>()
const { clock } = useTimeAxis()
const maxLines = 200
const lines = computed(() => logOf(props.looked.outcome))
const leftOut = computed(
  () => Math.max(0, lines.value.length - maxLines) + props.looked.outcome.eventsLeftOut,
)
const canvasOf = computed(
  () => new Map(props.looked.sends.map(({ name, canvas }) => [name, canvas])),
)
</script>

<template>
  <section class="card p-3.5" aria-labelledby="log-title">
    <h3 id="log-title" class="mb-1 text-base">What happened that night</h3>
    <ol v-if="lines.length > 0" class="max-h-72 overflow-y-auto" tabindex="0">
      <li
        v-for="(line, index) in lines.slice(0, maxLines)"
        :key="index"
        class="border-rule grid grid-cols-[5rem_minmax(0,1fr)] gap-2 border-b py-1 last:border-0"
      >
        <span class="number text-ink-2 text-xs leading-5">{{ clock(line.atSeconds) }}</span>
        <p>
          <b
            :class="{
              'text-river': canvasOf.get(line.who) === 'landscape',
              'text-foxglove': canvasOf.get(line.who) === 'vertical',
            }"
            >{{ line.who }}</b
          >
          {{ line.words }} <b v-if="line.blame">{{ line.blame }}</b>
        </p>
      </li>
    </ol>
    <p v-else>Nothing. Everybody got everything, on time.</p>
    <p v-if="leftOut > 0" class="text-ink-2 text-xs">and {{ wholeNumber(leftOut) }} more.</p>
    <details class="mt-2 text-xs">
      <summary class="cursor-pointer">What this line is drawn from</summary>
      <ul class="text-ink-2 list-disc pl-4">
        <li v-for="words in looked.basis" :key="words">{{ words }}</li>
        <li>
          A destination hangs up by itself once in a hundred hours, and another program takes a
          quarter of a device for some seconds once in six: working values of ours.
        </li>
      </ul>
    </details>
  </section>
</template>
