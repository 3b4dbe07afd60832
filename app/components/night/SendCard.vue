<script setup lang="ts">
import type { Trouble, SendStage } from '@green-mantle/core/night'
import { protocolNames } from '@green-mantle/core/words'
import type { Destination } from '@green-mantle/core/show'
import { Check } from '@lucide/vue'
import { computed } from 'vue'
import { standInPage } from '~/api/sender'
import { useRunSheetStore } from '~/stores/runSheet'
import { useSenderStore } from '~/stores/sender'
import { useShowStore } from '~/stores/show'
import SendRates from './SendRates.vue'
import { troubleAdvice } from './troubles'

/** How far one destination is: its stages, and what is wrong with it. */
const props = defineProps<{
  destination: Destination
  stages: readonly { stage: SendStage; isReached: boolean; isAsked: boolean }[]
  frozen: string | null
  trouble: { trouble: Trouble; at: string } | null
}>()
const show = useShowStore()
const sheet = useRunSheetStore()
const sender = useSenderStore()

const sends = computed(() => sender.sendsTo(props.destination.id))
const standIn = computed(() => sender.standInOf(props.destination.id))
const pictureWords = {
  none: 'no picture',
  'on its way': 'a signal, no picture yet',
  there: 'the picture is there',
  frozen: 'a frozen picture',
} as const

const reached = computed(() => props.stages.findLast(({ isReached }) => isReached)?.stage ?? null)
const isPressed = computed(() => props.destination.rules.start === 'pressed on its page')
const state = computed(() => {
  if (props.frozen) return { words: 'frozen on its page', tone: 'text-madder' }
  if (props.trouble) return { words: props.trouble.trouble, tone: 'text-madder' }
  switch (reached.value) {
    case 'ended':
      return { words: 'ended', tone: 'text-ink-2' }
    case 'live':
      return { words: 'live', tone: 'text-moss' }
    case 'arrived':
      return isPressed.value
        ? { words: 'arrived, nobody sees it yet', tone: 'text-ochre' }
        : { words: 'arrived', tone: 'text-moss' }
    case 'sending':
      return { words: 'sending, not seen to arrive', tone: 'text-ochre' }
    default:
      return { words: 'not sending', tone: 'text-ink-2' }
  }
})
const colour = computed(() =>
  props.destination.canvas === 'landscape'
    ? { text: 'text-river', slab: 'bg-[var(--slab-river)]' }
    : { text: 'text-foxglove', slab: 'bg-[var(--slab-foxglove)]' },
)
const pageWords = computed(() =>
  props.destination.relayId === null ? protocolNames[props.destination.protocol] : 'fed by a relay',
)
const advice = computed(
  () => props.frozen ?? (props.trouble ? troubleAdvice[props.trouble.trouble] : ''),
)
const about = computed(() => ({
  destinationId: props.destination.id,
  name: props.destination.name,
}))
/** What can be done to its send from here: it may be begun again as often as it takes. */
const fromHere = computed(() => {
  if (!sender.canSend(props.destination.id)) return null
  const isGoing = sends.value.some(({ stage }) => ['connecting', 'sending', 'away'].includes(stage))
  return isGoing ? ('stop' as const) : ('start' as const)
})
function doFromHere(): void {
  const { id } = props.destination
  const taskId = fromHere.value === 'stop' ? `stop-${id}` : `send-${id}`
  const task = sheet.order.tasks.find((each) => each.id === taskId)
  // Through its task, so that what comes first is said; where that is ticked already, plainly.
  if (task && !sheet.done(task)) sheet.tick(task)
  else if (fromHere.value === 'stop') void sender.stopSend(id)
  else void sender.startSend(id)
}
const isSent = computed(
  () => reached.value !== null && reached.value !== 'key' && reached.value !== 'ended',
)
</script>

<template>
  <article class="card p-3" :aria-label="destination.name">
    <div class="flex flex-wrap items-baseline gap-x-2">
      <h3 class="text-xl" :class="colour.text">{{ destination.name }}</h3>
      <span class="text-ink-2 text-sm">{{ pageWords }}</span>
      <span class="ml-auto font-semibold" :class="state.tone">{{ state.words }}</span>
    </div>
    <ol class="border-rule mt-1.5 flex overflow-hidden rounded-md border text-sm">
      <li
        v-for="{ stage, isReached, isAsked } in stages"
        :key="stage"
        class="border-rule flex flex-1 items-center justify-center gap-1 border-r py-1 last:border-r-0"
        :class="
          stage === reached
            ? `${colour.slab} text-on-slab font-bold`
            : isReached
              ? 'bg-sunk'
              : 'text-ink-2'
        "
      >
        <Check v-if="isReached && stage !== reached" class="size-3.5" aria-hidden="true" />
        {{ stage === 'key' && !isAsked ? 'no key' : stage }}
        <span v-if="isReached" class="sr-only">, reached</span>
      </li>
    </ol>
    <SendRates v-for="send in sends" :key="send.key" :send="send" />
    <p v-if="standIn" class="mt-1 text-sm">
      Its page: {{ pictureWords[standIn.picture]
      }}{{
        standIn.isLive ? (standIn.isPractice ? ', live to practise' : ', live') : ', not live'
      }}.
      <a class="link" :href="standInPage(show.id, destination.id)" target="_blank">Open its page</a>
    </p>
    <div class="mt-1.5 flex flex-wrap items-center gap-2 text-sm">
      <button v-if="fromHere" type="button" class="button" @click="doFromHere">
        {{ fromHere === 'start' ? 'Send now' : 'Stop this send' }}
      </button>
      <p v-if="advice" class="text-madder min-w-0 flex-1">{{ advice }}</p>
      <template v-if="trouble">
        <button type="button" class="button" @click="sheet.say({ kind: 'trouble over', ...about })">
          Well again
        </button>
      </template>
      <template v-else-if="isSent">
        <span class="text-ink-2">Is it well?</span>
        <button
          v-for="each in ['losing frames', 'frozen', 'hung up', 'no sound'] as const"
          :key="each"
          type="button"
          class="button button-quiet"
          @click="sheet.say({ kind: 'trouble', trouble: each, ...about })"
        >
          {{ each }}
        </button>
      </template>
    </div>
  </article>
</template>
