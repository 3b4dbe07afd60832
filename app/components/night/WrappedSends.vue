<script setup lang="ts">
import type { WrappedSend } from '@green-mantle/core/night'
import { viewing } from '@green-mantle/core/simulation'
import { durationInWords, kbpsInWords, timesInWords, wholeNumber } from '@green-mantle/core/words'
import { clockFace, inTimeInWords, saidAt } from './nightTimes'
import { useWrappedNight } from './wrappedNight'

/** Every send of a night: when it reached which stage, what went out of it, and what viewers had. */
const { plannedShow, wrapped } = useWrappedNight()
const stages = ['sending', 'arrived', 'live', 'ended'] as const
const time = (iso: string | null): string => saidAt(iso, plannedShow.value.timeZone)

const viewedInWords = ({ viewed, score }: WrappedSend): string[] => [
  ...(score ? [`score ${score.happened.toFixed(1)}, planned ${score.planned.toFixed(1)}`] : []),
  ...(viewed === null
    ? []
    : viewed.freezes === 0
      ? ['never stood still']
      : [`stood still ${timesInWords(viewed.freezes)}, ${durationInWords(viewed.frozenSeconds)}`]),
]
</script>

<template>
  <div class="overflow-x-auto" tabindex="0" role="region" aria-label="Sends">
    <table class="w-full">
      <thead>
        <tr class="border-edge text-ink-2 border-b text-left text-xs">
          <th class="py-1 pr-3">Destination</th>
          <th class="py-1 pr-3">Sending</th>
          <th class="py-1 pr-3">Arrived</th>
          <th class="py-1 pr-3">Live</th>
          <th class="py-1 pr-3">Ended</th>
          <th class="py-1 pr-3">Live for</th>
          <th class="py-1 pr-3">Sent from here</th>
          <th class="py-1 pr-3">For viewers</th>
          <th class="py-1">Trouble</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="send in wrapped.sends"
          :key="send.destinationId"
          class="border-rule border-b align-top"
        >
          <th scope="row" class="py-1 pr-3 text-left font-semibold">{{ send.name }}</th>
          <td v-for="stage in stages" :key="stage" class="number py-1 pr-3 whitespace-nowrap">
            {{ time(send.reachedAt[stage]) }}
            <span v-if="stage === 'live' && send.liveLateSeconds !== null" class="block text-xs">{{
              inTimeInWords(send.liveLateSeconds)
            }}</span>
          </td>
          <td class="number py-1 pr-3">
            {{ send.liveSeconds === null ? '' : clockFace(send.liveSeconds) }}
          </td>
          <td class="number py-1 pr-3 text-sm">
            <span v-for="(each, index) in send.sent" :key="index" class="block"
              >{{ kbpsInWords(Math.round(each.meanKbps)) }} of {{ wholeNumber(each.plannedKbps) }},
              {{ wholeNumber(each.lostFrames) }} lost{{
                each.isLossUnknown ? ' here, on the line not known' : ''
              }}</span
            >
          </td>
          <td class="py-1 pr-3 text-sm whitespace-nowrap">
            <span v-for="words in viewedInWords(send)" :key="words" class="block">{{ words }}</span>
          </td>
          <td class="py-1">
            <span v-if="send.wasFrozen" class="text-madder block"
              >stopped before it was ended on its page</span
            >
            <span v-for="each in send.troubles" :key="each.at" class="block"
              >{{ each.words }}, {{ time(each.at) }}</span
            >
          </td>
        </tr>
      </tbody>
    </table>
  </div>
  <p v-if="wrapped.sends.some(({ score }) => score)" class="text-ink-2 text-xs">
    For viewers: by the picture score of what went out from here, over its viewers' screens, and by
    how long a send was behind or away beyond the {{ viewing.playerBufferSeconds }} s that a player
    holds (a working value of ours).
  </p>
</template>
