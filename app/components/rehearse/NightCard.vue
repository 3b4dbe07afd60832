<script setup lang="ts">
import { laneStates } from '@green-mantle/core/simulation'
import { mbpsInWords } from '@green-mantle/core/words'
import { Pause, Play, SkipForward } from '@lucide/vue'
import { useIntervalFn } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRehearsalStore } from '~/stores/rehearsal'
import type { LookedAtNight } from '~/workers/rehearsal.worker'
import IncidentFlags from './IncidentFlags.vue'
import NightChart from './NightChart.vue'
import NightLanes from './NightLanes.vue'
import { axis, useTimeAxis } from './timeAxis'

/** One night on the axis of the show, with a cursor and what is so at that second. */
const props = defineProps<{ looked: LookedAtNight }>()
const rehearsal = useRehearsalStore()
const { seconds, clock, percent } = useTimeAxis()

const at = ref(0)
watch(seconds, (most) => (at.value = Math.min(at.value, most - 1)))
const timesRealTime = 60
const tickMilliseconds = 100
const player = useIntervalFn(
  () => {
    at.value = Math.min(seconds.value - 1, at.value + (timesRealTime * tickMilliseconds) / 1000)
    if (at.value >= seconds.value - 1) player.pause()
  },
  tickMilliseconds,
  { immediate: false },
)
const isPlaying = computed(() => player.isActive.value)

function toNextEvent(): void {
  const next = props.looked.outcome.events.find(({ atSeconds }) => atSeconds > at.value + 0.5)
  at.value = next ? Math.floor(next.atSeconds) : 0
}

const stateWords: Record<(typeof laneStates)[number], string> = {
  steady: 'steady',
  lowered: 'lowered',
  behind: 'behind',
  dropping: 'dropping frames',
  gone: 'gone, coming back',
  over: 'given up',
}
const here = computed(() => {
  const { trace, sends } = props.looked
  const place = Math.min(trace.places - 1, Math.floor(at.value / trace.secondsAPlace))
  const states = sends.map(({ name }, index) => {
    const state = laneStates[trace.states[index]?.[place] ?? 0] ?? 'steady'
    const share = trace.shares[index]?.[place] ?? 1
    const detail = share < 1 ? ` to ${Math.round(100 * share)} %` : ''
    return `${name} ${stateWords[state]}${state === 'lowered' ? detail : ''}`
  })
  return {
    line: `The line carries ${mbpsInWords(trace.capacityKbps[place] ?? 0)}.`,
    states: `${states.join('; ')}.`,
  }
})
function setByFrames(value: boolean): void {
  rehearsal.isByFrames = value
  void rehearsal.look()
}
</script>

<template>
  <section class="card min-w-0 p-3.5" aria-labelledby="night-title">
    <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
      <h3 id="night-title" class="text-base">Night {{ looked.outcome.night + 1 }}</h3>
      <label class="flex items-center gap-1.5 text-xs">
        <input
          type="checkbox"
          class="accent-moss size-4"
          :checked="rehearsal.isByFrames"
          @change="setByFrames(($event.target as HTMLInputElement).checked)"
        />
        frame by frame
      </label>
      <span v-if="rehearsal.isLooking" role="status" class="text-ink-2 text-xs">computing …</span>
      <div class="ml-auto flex items-center gap-1">
        <button type="button" class="button" @click="toNextEvent">
          <SkipForward class="size-4" /> Next event
        </button>
        <button
          type="button"
          class="button"
          :aria-pressed="isPlaying"
          @click="isPlaying ? player.pause() : player.resume()"
        >
          <Pause v-if="isPlaying" class="size-4" /><Play v-else class="size-4" />
          {{ isPlaying ? 'Hold' : 'Play at 60×' }}
        </button>
        <span class="number w-20 text-right">{{ clock(at) }}</span>
      </div>
    </div>
    <div
      class="roomy:overflow-visible overflow-x-auto"
      tabindex="0"
      role="region"
      aria-label="The night over time"
    >
      <div class="roomy:min-w-0 min-w-xl">
        <div class="relative">
          <div
            :style="{ paddingLeft: `${axis.left}px`, paddingRight: `${axis.right}px` }"
            class="pt-1"
          >
            <IncidentFlags />
          </div>
          <div class="relative">
            <NightChart class="h-36 w-full" :looked="looked" />
            <div
              class="text-ink-2 absolute top-2 right-0 pl-2 text-xs leading-tight"
              :style="{ width: `${axis.right}px` }"
              aria-hidden="true"
            >
              <p class="text-ink font-semibold">line: what it carries</p>
              <p>filled: what is sent</p>
            </div>
          </div>
          <NightLanes :looked="looked" />
          <div
            class="pointer-events-none absolute inset-y-0"
            :style="{ left: `${axis.left}px`, right: `${axis.right}px` }"
            aria-hidden="true"
          >
            <span class="bg-ink absolute inset-y-0 w-0.5" :style="{ left: percent(at) }" />
          </div>
        </div>
        <div :style="{ paddingLeft: `${axis.left}px`, paddingRight: `${axis.right}px` }">
          <input
            v-model.number="at"
            type="range"
            class="accent-moss h-6 w-full"
            aria-label="Time of the night"
            min="0"
            :max="seconds - 1"
            step="1"
            :aria-valuetext="clock(at)"
          />
        </div>
      </div>
    </div>
    <p class="text-xs" data-testid="at-cursor">
      <b class="number">{{ clock(at) }}</b> {{ here.line }} {{ here.states }}
    </p>
  </section>
</template>
