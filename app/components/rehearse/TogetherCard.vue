<script setup lang="ts">
import {
  countedSamples,
  fewestSamplesForLessHeadroom,
  knowsHowLow,
} from '@green-mantle/core/network'
import { type JointResult, jointTrial } from '@green-mantle/core/rehearsal'
import { countInWords, listInWords } from '@green-mantle/core/words'
import { computed } from 'vue'
import { useRehearsalStore } from '~/stores/rehearsal'
import { useShowStore } from '~/stores/show'

/** Headroom, and which sends lower where the line falls short, chosen together on the same nights. */
const store = useShowStore()
const rehearsal = useRehearsalStore()

const found = computed(() => rehearsal.together)
const triesLess = computed(() => knowsHowLow(store.line))
const sampleCount = computed(() => countedSamples(store.line).length)
const maxOffered = 3
const offered = computed(() => found.value?.better.slice(0, maxOffered) ?? [])

const nameOf = (id: string): string =>
  store.show.destinations.find((each) => each.id === id)?.name ?? ''
const waysInWords = ({ lowering }: JointResult): string =>
  lowering.length === 0
    ? 'every send drops frames'
    : `${listInWords(lowering.map(nameOf))} ${lowering.length === 1 ? 'lowers' : 'lower'}`
const ofHundred = ({ share }: JointResult): number => Math.floor(100 * share.share)
const interval = ({ share }: JointResult): string =>
  `${(100 * share.low).toFixed(0)} to ${(100 * share.high).toFixed(0)}`
function difference(each: JointResult): string {
  const points = each.seenPoints - (found.value?.now.seenPoints ?? 0)
  return `${points >= 0 ? '+' : '−'}${Math.abs(points).toFixed(1)}`
}
</script>

<template>
  <section class="card p-3.5" aria-labelledby="together-title">
    <h3 id="together-title" class="mb-1 text-base">Headroom, and who gives way</h3>
    <p v-if="rehearsal.running === 'together'" role="status" class="text-ink-2 text-xs">
      trying each headroom with each way to give way …
      <button type="button" class="link" @click="rehearsal.stop()">Stop</button>
    </p>
    <template v-else-if="!found">
      <p class="text-ink-2 mb-1.5 text-xs">
        A send that lowers its bitrate needs less headroom. Both are chosen here together, on the
        same nights.
      </p>
      <button type="button" class="button" @click="rehearsal.findTogether()">
        Find both together
      </button>
    </template>
    <template v-else>
      <ul>
        <li
          v-for="each in offered"
          :key="`${each.headroomPercent} ${each.lowering.join(' ')}`"
          class="border-rule grid grid-cols-[minmax(0,1fr)_auto_auto] items-center gap-x-2 border-b py-1.5 last:border-0"
        >
          <span
            >{{ each.headroomPercent }} %, {{ waysInWords(each) }}
            <span class="text-ink-2 block text-xs"
              >{{ difference(each) }} points seen; clean {{ interval(each) }} with 95 %
              certainty</span
            ></span
          >
          <b class="number text-moss" :title="`${each.clean} of ${each.nights} nights clean`">{{
            ofHundred(each)
          }}</b>
          <button
            type="button"
            class="button"
            :aria-label="`Take ${each.headroomPercent} %, ${waysInWords(each)}`"
            @click="rehearsal.takeTogether(each)"
          >
            Take
          </button>
        </li>
      </ul>
      <p v-if="offered.length === 0">
        Nothing that was tried is seen better and as clean as what there is.
      </p>
      <p v-if="!triesLess" class="text-ochre text-xs">
        Less headroom than now was not tried: {{ countInWords(sampleCount, 'measurement') }} tell
        too little of how low the line goes. Measure {{ fewestSamplesForLessHeadroom }} times.
      </p>
      <p class="text-ink-2 text-xs">
        Now {{ ofHundred(found.now) }} of 100 clean. Points seen: the sum of the sends’ scores,
        stalls and losses counted as nothing, over {{ jointTrial.nights }} nights. Lowering needs an
        encoder that can.
      </p>
    </template>
  </section>
</template>
