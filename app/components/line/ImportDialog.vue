<script setup lang="ts">
import { measurementLimits, type RateUnit, rateUnitsKbps } from '@green-mantle/core/formats'
import { media, type Medium } from '@green-mantle/core/show'
import { countInWords, mbpsInWords, mediumNames } from '@green-mantle/core/words'
import { FileInput } from '@lucide/vue'
import { computedAsync } from '@vueuse/core'
import { nanoid } from 'nanoid'
import { computed, ref, useId } from 'vue'
import SelectField from '~/components/fields/SelectField.vue'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { chooseTextFile } from '~/composables/files'
import { useShowStore } from '~/stores/show'
import { useToastStore } from '~/stores/toasts'
import { readingWorker } from '~/workers/workers'
import { useLineEditing } from './lineEditing'

/** Takes measurements from a pasted column, a CSV file or a report of iperf3; says what it found before anything is added. */
const emit = defineEmits<{ close: [] }>()
const store = useShowStore()
const editing = useLineEditing()
const toasts = useToastStore()
const id = useId()

const text = ref('')
const medium = ref<Medium>('cable')
const unit = ref<RateUnit | ''>('')
const mediumChoices = media.map((value) => ({ value, label: mediumNames[value] }))
const unitChoices = [
  { value: '' as const, label: 'choose …' },
  ...(Object.keys(rateUnitsKbps) as RateUnit[]).map((value) => ({ value, label: value })),
]
/** When it was opened: what has no time of its own counts as measured then. */
const openedAt = new Date().toISOString().replace(/\.\d+Z$/, 'Z')

/** Read off the page, since a long file takes its time. */
const result = computedAsync(async () => {
  const given = text.value
  const defaults = {
    medium: medium.value,
    unit: unit.value || null,
    measuredAt: openedAt,
    timeZone: store.show.timeZone,
  }
  return given.trim() === '' ? undefined : readingWorker().readMeasurements(given, defaults)
})
const isUnitNeeded = computed(
  () => unit.value !== '' || (result.value?.ok === false && result.value.reason === 'unit needed'),
)
const found = computed(() => {
  if (!result.value?.ok) return undefined
  const rates = result.value.samples.map(({ uploadKbps }) => uploadKbps)
  const range = `${mbpsInWords(Math.min(...rates))} to ${mbpsInWords(Math.max(...rates))}`
  return `${countInWords(rates.length, 'measurement')}, ${range}.`
})
const problem = computed(() => {
  if (!result.value || result.value.ok) return undefined
  if (result.value.reason === 'unit needed')
    return 'Nothing says what the rates are in. Choose the unit.'
  return `${result.value.place}: ${result.value.message}. Nothing is added.`
})

async function openFile(): Promise<void> {
  const file = await chooseTextFile(
    '.csv,.tsv,.txt,.json,text/csv,application/json',
    measurementLimits.characters,
  )
  if (file) text.value = file.text
}

function add(): void {
  if (!result.value?.ok) return
  const samples = result.value.samples.map((sample) => ({ ...sample, id: nanoid(12) }))
  const room = measurementLimits.samples - store.line.samples.length
  if (samples.length > room) {
    toasts.tell(
      `The line has room for ${room} more measurements; ${samples.length} were not added.`,
      { tone: 'fails' },
    )
    return
  }
  editing.addSamples(
    `Add ${samples.length === 1 ? 'a measurement' : `${samples.length} measurements`}`,
    samples,
  )
  emit('close')
}
</script>

<template>
  <ModalDialog
    title="Bring measurements in"
    description="Paste a column of rates or a table with a header, or open a CSV file or the JSON that iperf3 -J writes."
    @close="emit('close')"
  >
    <form class="flex flex-col gap-3" @submit.prevent="add">
      <div class="flex flex-col gap-0.5">
        <label :for="id" class="text-ink-2 text-xs">Measurements</label>
        <textarea
          :id="id"
          v-model="text"
          class="field number min-h-40"
          spellcheck="false"
          placeholder="time, upload Mb/s, medium&#10;2026-12-11 21:20, 17.4, cable"
        />
      </div>
      <div class="flex items-end gap-3">
        <button type="button" class="button" @click="openFile">
          <FileInput class="size-4" /> Open a file …
        </button>
        <SelectField
          v-model="medium"
          label="Measured by, where it is not said"
          :choices="mediumChoices"
        />
        <SelectField
          v-if="isUnitNeeded"
          v-model="unit"
          label="Rates are in"
          :choices="unitChoices"
        />
      </div>
      <p v-if="found" role="status">{{ found }}</p>
      <p v-if="problem" role="alert" class="text-madder">{{ problem }}</p>
      <button type="submit" class="button button-primary self-start" :disabled="!result?.ok">
        Add them
      </button>
    </form>
  </ModalDialog>
</template>
