<script setup lang="ts">
import type { Computer } from '@green-mantle/core/show'
import { Gauge, Square } from '@lucide/vue'
import { DateTime } from 'luxon'
import { computed } from 'vue'
import { useBrowserComputer } from '~/composables/browserComputer'
import { useShowStore } from '~/stores/show'
import MeasuredSpeeds from './MeasuredSpeeds.vue'
import MeasuringProgress from './MeasuringProgress.vue'

/** Measures the encoders of the browser itself, for who streams from its machine, and offers the result. */
const emit = defineEmits<{ take: [computer: Computer] }>()
const store = useShowStore()
const { computer, report, going, problem, missing, measure, stop } = useBrowserComputer()

const isInUse = computed(
  () => computer.value !== null && store.show.computer.measured?.at === computer.value.measured?.at,
)
const about = computed(() => {
  const measured = computer.value?.measured
  if (!measured) return ''
  const date = DateTime.fromISO(measured.at)
  return `${measured.processor}, ${measured.program}, ${date.toLocaleString({ day: 'numeric', month: 'short', year: 'numeric' })}`
})
</script>

<template>
  <section class="card p-3.5" aria-labelledby="measure-browser">
    <div class="flex flex-wrap items-center gap-2">
      <h3 id="measure-browser" class="text-lg">Measure this browser’s computer</h3>
      <span class="grow" />
      <button v-if="going" type="button" class="button" @click="stop">
        <Square class="size-4" /> Stop, keep what is known
      </button>
      <button v-else type="button" class="button" :disabled="missing !== ''" @click="measure">
        <Gauge class="size-4" /> Measure, about 30 s
      </button>
    </div>
    <MeasuringProgress
      what="Measuring this browser’s computer"
      :going="going"
      :report="report"
      :problem="problem"
      :missing="missing || null"
    />
    <p v-if="!going" class="text-ink-2 mt-2 max-w-[75ch]">
      For a show that is sent from the machine at which you sit, where Green Mantle runs on another:
      the encoders that this browser has there. It knows two ways of working, which stand for
      <em>fastest</em> and <em>balanced</em>; what a program there can send where stays unknown.
    </p>
    <div v-if="computer && !going" class="mt-3 flex flex-col items-start gap-3">
      <MeasuredSpeeds v-if="!isInUse" :devices="computer.devices" />
      <div class="flex flex-wrap items-center gap-3">
        <button type="button" class="button" :disabled="isInUse" @click="emit('take', computer)">
          {{ isInUse ? 'This show uses what it measured' : 'Use what it measured in this show' }}
        </button>
        <span class="text-ink-2">{{ about }}</span>
      </div>
    </div>
  </section>
</template>
