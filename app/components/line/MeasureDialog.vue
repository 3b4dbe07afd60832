<script setup lang="ts">
import {
  type PracticeLineName,
  practiceLineNames,
  practiceLines,
  sampleSeconds,
} from '@green-mantle/core/network'
import { type LineSample, media, type Medium } from '@green-mantle/core/show'
import { countInWords, mbpsNumber, mediumNames } from '@green-mantle/core/words'
import { Gauge, Square } from '@lucide/vue'
import { DateTime } from 'luxon'
import { nanoid } from 'nanoid'
import { computed, onBeforeUnmount, ref } from 'vue'
import { wordsFor } from '~/api/problem'
import NumberField from '~/components/fields/NumberField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { measureUpload } from '~/measuring/measureUpload'
import { useShowStore } from '~/stores/show'
import { useToastStore } from '~/stores/toasts'
import { useLineEditing } from './lineEditing'

const emit = defineEmits<{ close: [] }>()
const store = useShowStore()
const editing = useLineEditing()
const toasts = useToastStore()

/** Where browser and server are one machine there is no line between them to measure. */
const isLoopback = ['localhost', '127.0.0.1', '[::1]'].includes(window.location.hostname)
const genuine = 'genuine' as const
const lineChoices = [
  ...(isLoopback ? [] : [{ value: genuine, label: 'the line to this server' }]),
  ...practiceLineNames.map((value) => ({
    value,
    label: `practice line: ${practiceLines[value].name}`,
  })),
]
const chosen = ref<PracticeLineName | typeof genuine>(isLoopback ? 'rural copper' : genuine)
const medium = ref<Medium>('cable')
const mediumChoices = media.map((value) => ({ value, label: mediumNames[value] }))
const seconds = ref(30)
const durations = [10, 30, 60, 120, 300].map((value) => ({ value, label: `${value} s` }))
const connections = ref(4)
const connectionChoices = [1, 2, 4, 8].map((value) => ({ value, label: `${value}` }))
const seed = ref(1)
const startHour = ref(DateTime.now().setZone(store.show.timeZone).hour)

const running = ref<AbortController>()
const rates = ref<number[]>([])
const problem = ref('')
const latest = computed(() => rates.value.at(-1))
const highest = computed(() => Math.max(...rates.value, 1))

async function measure(): Promise<void> {
  const stop = new AbortController()
  running.value = stop
  rates.value = []
  problem.value = ''
  const practice =
    chosen.value === genuine
      ? null
      : { line: chosen.value, seed: seed.value, startHour: startHour.value }
  try {
    const measured = await measureUpload({
      connections: connections.value,
      durationSeconds: seconds.value,
      practice,
      signal: stop.signal,
      onSecond: (perSecond) => (rates.value = perSecond),
    })
    keep(measured)
  } catch (error) {
    if (!stop.signal.aborted) problem.value = `${wordsFor(error)} Nothing was added.`
  } finally {
    running.value = undefined
  }
}

function keep(measured: Awaited<ReturnType<typeof measureUpload>>): void {
  // A stretch in which nothing went through is what the line gave: the least that can be written.
  const samples = measured.rates.map(({ uploadKbps, measuredAt }): LineSample => ({
    id: nanoid(12),
    measuredAt: measuredAt.toISOString(),
    uploadKbps: Math.max(1, Math.round(uploadKbps)),
    medium: chosen.value === genuine ? medium.value : practiceLines[chosen.value].medium,
    roundTripMilliseconds: Math.round(measured.roundTripMilliseconds * 10) / 10,
    lossPercent: null,
    retransmits: null,
    note: chosen.value === genuine ? '' : `practice line: ${practiceLines[chosen.value].name}`,
  }))
  if (samples.length === 0) {
    problem.value = `It was stopped before ${sampleSeconds} s were measured. Nothing was added.`
    return
  }
  editing.addSamples('Measure the line', samples)
  toasts.tell(`${countInWords(samples.length, 'measurement')} added.`)
  emit('close')
}

onBeforeUnmount(() => running.value?.abort())
</script>

<template>
  <ModalDialog
    title="Measure the upload"
    description="Real bytes go from this browser to our own server. Measure several times, at the hour of the show."
    @close="emit('close')"
  >
    <form class="flex flex-col gap-3" @submit.prevent="measure">
      <p v-if="isLoopback" class="border-ochre bg-ochre-wash rounded border px-2.5 py-1.5">
        Browser and server are on one machine, so there is no line between them: this measures a
        <strong>practice line</strong>, which is simulated.
      </p>
      <div class="grid grid-cols-2 gap-2">
        <SelectField v-model="chosen" label="Measure" :choices="lineChoices" />
        <SelectField
          v-if="chosen === genuine"
          v-model="medium"
          label="By"
          :choices="mediumChoices"
        />
        <div v-else class="grid grid-cols-2 gap-2">
          <NumberField
            label="Hour of the day"
            :min="0"
            :max="24"
            :model-value="startHour"
            @update:model-value="startHour = $event"
          />
          <NumberField
            label="Seed"
            :min="0"
            :max="2147483647"
            :model-value="seed"
            @update:model-value="seed = $event"
          />
        </div>
        <SelectField v-model="seconds" label="For" :choices="durations" />
        <SelectField v-model="connections" label="Connections" :choices="connectionChoices" />
      </div>
      <div v-if="running" class="flex items-end gap-3">
        <p class="grow" role="status" aria-live="off">
          <template v-if="latest !== undefined">
            <span class="number text-3xl font-bold" data-testid="measured-rate">{{
              mbpsNumber(latest)
            }}</span>
            Mb/s, second {{ rates.length }} of {{ seconds }}
          </template>
          <template v-else>Sending …</template>
        </p>
        <button type="button" class="button" @click="running.abort()">
          <Square class="size-4" /> Stop
        </button>
      </div>
      <svg
        v-if="rates.length > 0"
        class="bg-sunk h-16 w-full rounded"
        :viewBox="`0 0 ${seconds} ${highest}`"
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        <rect
          v-for="(rate, second) in rates"
          :key="second"
          class="fill-moss"
          :x="second"
          :y="highest - rate"
          width="0.85"
          :height="rate"
        />
      </svg>
      <p v-if="problem" role="alert" class="text-madder">{{ problem }}</p>
      <button v-if="!running" type="submit" class="button button-primary self-start">
        <Gauge class="size-4" /> Start measuring
      </button>
    </form>
  </ModalDialog>
</template>
