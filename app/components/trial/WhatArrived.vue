<script setup lang="ts">
import { type TrialResult, type TrialSend, wireInWords } from '@green-mantle/core/trial'
import { kbpsInWords, wholeNumber } from '@green-mantle/core/words'
import { Check, TriangleAlert } from '@lucide/vue'
import { computed } from 'vue'
import LongerWaits from '~/components/trial/LongerWaits.vue'

/** Each send of a trial, as planned and as it arrived. */
const props = defineProps<{
  result: TrialResult
  /** Whether the plan is still the one that was tried. */
  isOfThisPlan: boolean
}>()

interface Line {
  name: string
  planned: string
  arrived: string
}
const seconds = (value: number | null): string => `${(value ?? 0).toFixed(2)} s`
const linesOf = (send: TrialSend): Line[] => {
  if (send.arrivedWords === null) return []
  const spacing = send.longestKeyframeSpacingSeconds
  return [
    { name: 'picture', planned: send.plannedWords, arrived: send.arrivedWords },
    {
      name: 'frames',
      planned: `${send.plannedFramesPerSecond}`,
      arrived: `${send.arrivedFramesPerSecond ?? '–'}`,
    },
    {
      name: 'kb/s',
      planned: wholeNumber(send.plannedKbps),
      arrived: wholeNumber(send.arrivedKbps ?? 0),
    },
    { name: 'peak, 1 s', planned: '', arrived: wholeNumber(send.busiestSecondKbps ?? 0) },
    {
      name: 'keyframe',
      planned: '',
      arrived: spacing === null ? 'one only' : `every ${spacing.toFixed(2)} s`,
    },
    ...(send.picture
      ? [
          {
            name: 'score',
            planned: wholeNumber(send.picture.plannedScore),
            arrived: wholeNumber(send.picture.score),
          },
        ]
      : []),
    { name: 'longest gap', planned: '', arrived: seconds(send.longestGapSeconds) },
    ...(send.longestWaitSeconds === null
      ? []
      : [{ name: 'longest wait', planned: '', arrived: seconds(send.longestWaitSeconds) }]),
  ]
}
const isCompared = computed(() => props.result.sends.some(({ picture }) => picture !== null))
const ofTestPicture = computed(() =>
  props.result.input.includes('test picture')
    ? 'The test picture is like no show: only a clip of your own says something of yours.'
    : '',
)
const sends = computed(() =>
  props.result.sends.map((send) => ({
    send,
    lines: linesOf(send),
    wire: wireInWords(send),
    highest: Math.max(send.plannedKbps * 1.3, ...send.perSecondKbps),
  })),
)
</script>

<template>
  <section class="card p-3.5" aria-labelledby="what-arrived">
    <div class="flex flex-wrap items-baseline gap-3">
      <h3 id="what-arrived" class="text-lg">What arrived</h3>
      <span class="text-ink-2 text-xs">kb/s in each second; dashed: planned</span>
    </div>
    <p v-if="isCompared" class="text-ink-2 mt-1 max-w-[80ch] text-xs">
      Score: two seconds of what arrived held against what the canvas showed, frame against frame at
      the canvas’s size (SSIM), by the scale of <em>Measure my picture</em>; planned is what the
      kind of picture in use foretells at that size.
      {{ ofTestPicture }}
    </p>
    <LongerWaits v-if="isOfThisPlan" :result="result" />
    <div class="mt-2 grid grid-cols-[repeat(auto-fill,minmax(17rem,1fr))] gap-x-6 gap-y-4">
      <article v-for="{ send, lines, wire, highest } in sends" :key="send.key" class="min-w-0">
        <h4
          class="truncate text-base"
          :class="send.canvas === 'landscape' ? 'text-river' : 'text-foxglove'"
          :title="send.name"
        >
          {{ send.name }}
        </h4>
        <svg
          v-if="send.perSecondKbps.length > 0"
          class="mt-1 h-12 w-full"
          :viewBox="`0 0 ${send.perSecondKbps.length} 100`"
          preserveAspectRatio="none"
          role="img"
          :aria-label="`${send.name}: between ${wholeNumber(Math.min(...send.perSecondKbps))} and ${kbpsInWords(Math.max(...send.perSecondKbps))} in each second, planned ${wholeNumber(send.plannedKbps)}`"
        >
          <rect
            v-for="(kbps, second) in send.perSecondKbps"
            :key="second"
            :x="second + 0.08"
            :y="100 - (100 * kbps) / highest"
            width="0.84"
            :height="(100 * kbps) / highest"
            :class="send.canvas === 'landscape' ? 'fill-river' : 'fill-foxglove'"
          />
          <line
            x1="0"
            :x2="send.perSecondKbps.length"
            :y1="100 - (100 * send.plannedKbps) / highest"
            :y2="100 - (100 * send.plannedKbps) / highest"
            class="stroke-ink"
            stroke-dasharray="4 3"
            vector-effect="non-scaling-stroke"
          />
        </svg>
        <table v-if="lines.length > 0" class="mt-1 w-full text-sm">
          <thead>
            <tr class="text-ink-2 border-rule border-b text-left text-xs">
              <td></td>
              <th class="py-0.5 pr-2 font-normal">Planned</th>
              <th class="font-normal">Arrived</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="line in lines" :key="line.name" class="border-rule border-b">
              <th scope="row" class="py-0.5 pr-2 text-left font-normal">{{ line.name }}</th>
              <td class="number pr-2">{{ line.planned }}</td>
              <td class="number">{{ line.arrived }}</td>
            </tr>
            <tr v-if="wire" class="border-rule border-b">
              <th scope="row" class="py-0.5 pr-2 text-left font-normal">on the wire</th>
              <td colspan="2" class="number">{{ wire }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="send.findings.length === 0" class="mt-1 flex items-center gap-2">
          <Check class="text-moss size-4" aria-hidden="true" /> As planned, and within its rules.
        </p>
        <ul v-else class="mt-1 flex flex-col gap-1">
          <li v-for="finding in send.findings" :key="finding.words" class="flex items-start gap-2">
            <TriangleAlert
              class="mt-0.5 size-4 shrink-0"
              :class="finding.kind === 'breach' ? 'text-madder' : 'text-ochre'"
              aria-hidden="true"
            />
            <span>{{ finding.words }}</span>
          </li>
        </ul>
      </article>
    </div>
  </section>
</template>
