<script setup lang="ts">
import { loadCorrection, plannedShareBeside } from '@green-mantle/core/measured'
import { keptUpSpeed, type TrialResult } from '@green-mantle/core/trial'
import { shareInWords, wholeNumber } from '@green-mantle/core/words'
import { TriangleAlert } from '@lucide/vue'
import { computed } from 'vue'
import { useComputerEditing } from '~/components/fit/computerEditing'
import EffortsThatKeepUp from '~/components/trial/EffortsThatKeepUp.vue'
import { useShowStore } from '~/stores/show'

/** What the encodes of a trial asked of this computer, beside what the plan had them ask. */
const props = defineProps<{
  result: TrialResult
  /** Whether the plan is still the one that was tried. */
  isOfThisPlan: boolean
}>()
const editing = useComputerEditing()
const store = useShowStore()

const correction = computed(() => loadCorrection(props.result.processes))
const isBehind = computed(() =>
  props.result.processes.some(({ speed }) => speed === null || speed < keptUpSpeed),
)
/** What is left for encodes where the computer did not keep up. */
const left = computed(() =>
  isBehind.value ? plannedShareBeside(props.result.processes, store.show.computer) : null,
)
const share = (value: number | null): string => (value === null ? 'not known' : shareInWords(value))
const megabytes = (value: number): string => value.toFixed(1)

function takeSpeeds(): void {
  if (correction.value !== null) editing.takeMeasuredSpeeds(correction.value)
}
</script>

<template>
  <section class="card p-3.5" aria-labelledby="computer-did">
    <h3 id="computer-did" class="text-lg">What the computer did</h3>
    <table class="mt-2 w-full">
      <thead>
        <tr class="text-ink-2 border-rule border-b text-left text-xs">
          <th class="py-1 pr-3 font-normal">Encodes of</th>
          <th class="pr-3 text-right font-normal">Kept up</th>
          <th class="pr-3 text-right font-normal">Late frames</th>
          <th class="pr-3 text-right font-normal">Processor, planned</th>
          <th class="text-right font-normal">taken</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="process in result.processes"
          :key="process.canvas"
          class="border-rule border-b align-top"
        >
          <th scope="row" class="py-1.5 pr-3 text-left font-normal">
            <span :class="process.canvas === 'landscape' ? 'text-river' : 'text-foxglove'">
              {{ process.canvas }}
            </span>
            <span class="number block text-xs">{{ process.encodes.join(' · ') }}</span>
            <span v-if="process.problem" class="text-madder block">{{ process.problem }}</span>
          </th>
          <td
            class="number py-1.5 pr-3 text-right font-semibold"
            :class="
              process.speed !== null && process.speed >= keptUpSpeed ? 'text-moss' : 'text-madder'
            "
          >
            {{ process.speed === null ? 'not at all' : `${process.speed.toFixed(2)}×` }}
          </td>
          <td class="number py-1.5 pr-3 text-right">{{ wholeNumber(process.droppedFrames) }}</td>
          <td class="number py-1.5 pr-3 text-right">{{ share(process.plannedShare) }}</td>
          <td class="number py-1.5 text-right">
            {{ share(process.processorShare) }}
            <span v-if="process.pictureShare !== null" class="text-ink-2 block text-xs">
              {{ share(process.pictureShare) }} of it decoding and scaling
            </span>
          </td>
        </tr>
        <tr
          v-for="recording in result.recordings"
          :key="recording.name"
          class="border-rule border-b"
        >
          <th scope="row" class="py-1.5 pr-3 text-left font-normal">
            {{ recording.name }}, to disk
          </th>
          <td colspan="4" class="number py-1.5 text-right">
            {{ megabytes(recording.megabytes) }} MB, planned
            {{ megabytes(recording.plannedMegabytes) }}
          </td>
        </tr>
      </tbody>
    </table>
    <EffortsThatKeepUp v-if="isBehind && isOfThisPlan" :result="result" />
    <div v-if="left" class="mt-2 flex flex-wrap items-center gap-3">
      <p class="flex min-w-64 flex-1 items-start gap-2">
        <TriangleAlert class="text-ochre mt-0.5 size-4 shrink-0" aria-hidden="true" />
        Sent from here, decoding and scaling the canvases take
        {{ shareInWords(left.pictureShare) }} of the processor, which the plan does not count.
      </p>
      <button type="button" class="button" @click="editing.planProcessorUpTo(left.percent)">
        Plan the processor up to {{ left.percent }} %
      </button>
    </div>
    <div v-if="correction !== null" class="mt-2 flex flex-wrap items-center gap-3">
      <p class="flex min-w-64 flex-1 items-start gap-2">
        <TriangleAlert class="text-ochre mt-0.5 size-4 shrink-0" aria-hidden="true" />
        The encodes take {{ shareInWords(correction) }} of what the plan has them take on the
        processor; decoding and scaling, measured beforehand without any encode, are left out.
      </p>
      <button type="button" class="button" @click="takeSpeeds">Take the measured speeds</button>
    </div>
  </section>
</template>
