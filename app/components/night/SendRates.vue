<script setup lang="ts">
import { kbpsInWords, wholeNumber } from '@green-mantle/core/words'
import type { SenderSend } from '@green-mantle/core/night'
import { computed } from 'vue'
import { useSenderStore } from '~/stores/sender'
import RateLine from './RateLine.vue'

/** How one send from here goes: its rate, what is lost, whose fault it is and what to do. */
const props = defineProps<{ send: SenderSend }>()
const sender = useSenderStore()

const slots = 90
const health = computed(() => sender.healthOf(props.send))
const tones = { well: 'text-ink-2', attention: 'text-ochre', fails: 'text-madder' } as const
const rates = computed(() => sender.rates.get(props.send.key) ?? [])
const made = computed(() => props.send.sentFrames + props.send.lostFrames)
</script>

<template>
  <div class="mt-1.5">
    <div class="flex items-center gap-3">
      <RateLine
        class="min-w-0 flex-1"
        :class="send.canvas === 'landscape' ? 'text-river' : 'text-foxglove'"
        :rates="rates"
        :planned-kbps="send.plannedKbps"
        :slots="slots"
      />
      <p class="number w-48 shrink-0 text-xs">
        {{ kbpsInWords(send.kbps) }} of {{ wholeNumber(send.plannedKbps) }}<br />
        {{ wholeNumber(send.lostFrames) }} of {{ wholeNumber(made) }} lost{{
          send.isLossUnknown ? ' here' : ''
        }}
      </p>
    </div>
    <p class="text-sm" :class="tones[health.tone]">
      {{ send.isBackup ? 'Second ingest: ' : '' }}{{ send.cannot || health.words
      }}<template v-if="send.reconnects > 0"
        >, came back {{ send.reconnects === 1 ? 'once' : `${send.reconnects} times` }}</template
      >
    </p>
    <p v-if="send.isLossUnknown" class="text-ink-2 text-xs">
      Handed to the program that speaks SRT; what the line loses of it is not seen here. Look at its
      page.
    </p>
    <details v-if="health.todo.length > 0" class="text-sm">
      <summary class="cursor-pointer">What to do</summary>
      <ol class="list-decimal pl-5">
        <li v-for="each in health.todo" :key="each">{{ each }}</li>
      </ol>
    </details>
  </div>
</template>
