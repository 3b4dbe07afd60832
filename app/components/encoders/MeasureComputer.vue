<script setup lang="ts">
import { programLimitsInWords } from '@green-mantle/core/fit'
import { hasEfficiencies } from '@green-mantle/core/measured'
import { codecs, type Computer, protocols } from '@green-mantle/core/show'
import { codecNames, listInWords, protocolNames } from '@green-mantle/core/words'
import { Gauge, Square } from '@lucide/vue'
import { DateTime } from 'luxon'
import { computed, ref } from 'vue'
import MeasuredSpeeds from './MeasuredSpeeds.vue'
import MeasuringProgress from './MeasuringProgress.vue'
import { browserMachine } from '~/browserEncoders/machine'
import SelectField from '~/components/fields/SelectField.vue'
import type { StoredClip } from '~/api/pictures'
import { useOwnComputer } from '~/composables/ownComputer'
import { chooseClips, useStoredClips } from '~/composables/storedClips'
import { useShowStore } from '~/stores/show'

/** Measures the computer that the application runs on, and offers the result to this show. */
const emit = defineEmits<{ take: [computer: Computer] }>()
const store = useShowStore()
const { own, going, problem, measure, stop } = useOwnComputer()
const { ownClips, ownClip } = useStoredClips()

const madePicture = 'a made picture'
const fromDisk = 'a file …'
const clips = computed(() => [
  { value: madePicture, label: madePicture },
  ...ownClips.value,
  { value: fromDisk, label: fromDisk },
])
const chosen = ref(madePicture)
const noClip = (): Promise<null> => Promise.resolve(null)
/** Throws, in words, where a file that was to be chosen was not. */
async function clipToMeasure(): Promise<StoredClip | null> {
  if (chosen.value === madePicture) return null
  const [clip] = chosen.value === fromDisk ? await chooseClips(1) : ownClip(chosen.value)
  if (!clip) throw new Error('No clip was chosen. Nothing was measured.')
  return clip
}

const report = computed(() => own.value?.measuring.report ?? null)
/** What is known: while it goes on as far as it is, afterwards what was kept. */
const known = computed(() => (going.value ? report.value?.computer : own.value?.computer) ?? null)
const shown = computed(() => store.show.computer.measured)

const dated = (at: string): string =>
  DateTime.fromISO(at).toLocaleString({ day: 'numeric', month: 'short', year: 'numeric' })
const origin = computed(() => {
  const { measured, devices } = store.show.computer
  if (devices.length === 0) return ''
  if (!measured) return 'The values below were typed in or are invented.'
  const places: Record<string, string> = {
    [own.value?.installation ?? '']: 'on this computer',
    [browserMachine() ?? '']: 'by this browser, on the machine that it runs on',
  }
  const where = `The values below were measured ${places[measured.installation] ?? 'on another computer, and say little about this one'}`
  const by = devices.some(hasEfficiencies)
    ? ` What encoders get out of a bit was measured by ${measured.efficiencyClip === undefined ? 'a made picture' : `“${measured.efficiencyClip}”`}.`
    : ''
  return `${where}: ${measured.processor}, ${measured.program}, ${dated(measured.at)}.${by}`
})
const isInUse = computed(
  () =>
    !going.value && shown.value !== null && own.value?.computer?.measured?.at === shown.value.at,
)
const limits = computed(() => programLimitsInWords(store.show))

/** What the program carries, as in "RTMP: H.264". */
const carried = computed(() =>
  protocols.map((protocol) => {
    const able = codecs.filter((codec) => known.value?.measured?.carries[protocol].includes(codec))
    // What the program can't, the server does where it sends.
    const none = protocol === 'whip' ? 'nothing; sent from here, H.264' : 'nothing'
    return {
      name: protocolNames[protocol],
      able: able.length > 0 ? listInWords(able.map((codec) => codecNames[codec])) : none,
    }
  }),
)
</script>

<template>
  <section class="card p-3.5" aria-labelledby="measure-computer">
    <div class="flex flex-wrap items-end gap-2">
      <h3 id="measure-computer" class="text-lg">Measure this computer</h3>
      <span class="grow" />
      <template v-if="going">
        <button type="button" class="button" @click="stop">
          <Square class="size-4" /> Stop, keep what is known
        </button>
      </template>
      <template v-else>
        <button
          type="button"
          class="button button-primary"
          :disabled="!own || own.missing !== null"
          @click="measure('quick', noClip)"
        >
          <Gauge class="size-4" /> Quick, about 110 s
        </button>
        <SelectField v-model="chosen" class="w-44" label="Thorough, by" :choices="clips" />
        <button
          type="button"
          class="button"
          :disabled="!own || own.missing !== null"
          @click="measure('thorough', clipToMeasure)"
        >
          Thorough, about 10 min
        </button>
      </template>
    </div>
    <MeasuringProgress
      what="Measuring this computer"
      :going="going"
      :report="report"
      :problem="problem"
      :missing="own?.missing ?? null"
    />
    <p v-if="!going" class="text-ink-2 mt-2 max-w-[75ch]">
      Real encodes of a moving picture, each by itself and several at once, on the machine that runs
      this application. The thorough pass also holds what every encoder makes against its original:
      what it gets out of a bit, by the picture that is chosen. Leave it alone meanwhile.
      {{ origin }}
    </p>
    <div v-if="known?.measured && !isInUse" class="mt-3 flex flex-wrap gap-x-8 gap-y-3">
      <MeasuredSpeeds :devices="known.devices" />
      <dl class="grid grid-cols-[auto_auto] content-start gap-x-4">
        <dt class="text-ink-2 col-span-2 text-xs">{{ known.measured.program }} can send</dt>
        <template v-for="{ name, able } in carried" :key="name">
          <dt>{{ name }}</dt>
          <dd>{{ able }}</dd>
        </template>
      </dl>
    </div>
    <div v-if="own?.computer && !going" class="mt-3 flex flex-wrap items-center gap-3">
      <button type="button" class="button" :disabled="isInUse" @click="emit('take', own.computer)">
        {{ isInUse ? 'This show uses what was measured' : 'Use what was measured in this show' }}
      </button>
      <span class="text-ink-2">
        {{ own.computer.measured?.processor }},
        {{ own.computer.measured ? dated(own.computer.measured.at) : '' }}
      </span>
    </div>
    <ul v-if="limits.length > 0" class="mt-2 list-disc pl-5">
      <li v-for="limit in limits" :key="limit">{{ limit }}</li>
    </ul>
  </section>
</template>
