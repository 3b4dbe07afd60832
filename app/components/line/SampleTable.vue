<script setup lang="ts">
import { type LineSample, media, type Medium } from '@green-mantle/core/show'
import { kbpsFromMbps, mbpsFromKbps, mediumNames, wholeNumber } from '@green-mantle/core/words'
import { FileInput, Gauge, Plus, Trash2 } from '@lucide/vue'
import { DateTime } from 'luxon'
import { nanoid } from 'nanoid'
import { computed, defineAsyncComponent, ref } from 'vue'
import QuantityField from '~/components/fields/QuantityField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import DateTimeField from '~/components/fields/DateTimeField.vue'
import TextField from '~/components/fields/TextField.vue'
import ScrollBox from '~/components/frame/ScrollBox.vue'
import { useShowStore } from '~/stores/show'
import { useToastStore } from '~/stores/toasts'
import { useLineEditing } from './lineEditing'

// The readers of files are loaded where they are first needed.
const MeasureDialog = defineAsyncComponent(() => import('./MeasureDialog.vue'))
const ImportDialog = defineAsyncComponent(() => import('./ImportDialog.vue'))

const store = useShowStore()
const editing = useLineEditing()
const isImporting = ref(false)
const isMeasuring = ref(false)
const toasts = useToastStore()
const mediumChoices = media.map((value) => ({ value, label: mediumNames[value] }))

// Apart, so that an edit that leaves them as they are draws no row again.
const samples = computed(() => store.line.samples)
const timeZone = computed(() => store.show.timeZone)
/** A line keeps thousands; a row of fields for each would hold the page up for half a minute. */
const rowsAtOnce = 50
const shownRows = ref(rowsAtOnce)
const latestFirst = computed(() =>
  [...samples.value].sort((a, b) => b.measuredAt.localeCompare(a.measuredAt)),
)
const shown = computed(() => latestFirst.value.slice(0, shownRows.value))
const older = computed(() => latestFirst.value.length - shown.value.length)
const localTime = (iso: string): string =>
  DateTime.fromISO(iso, { zone: timeZone.value }).toFormat("yyyy-MM-dd'T'HH:mm")
const asInstant = (local: string): string | null =>
  DateTime.fromISO(local, { zone: timeZone.value }).toUTC().set({ millisecond: 0 }).toISO({
    suppressMilliseconds: true,
  })

const newMbps = ref<number | null>(null)
const newMedium = ref<Medium>('cable')

function add(): void {
  if (newMbps.value === null) {
    toasts.tell('Type the measured upload first, as in 18.2 or 18200 kb/s.')
    return
  }
  const sample: LineSample = {
    id: nanoid(12),
    measuredAt:
      asInstant(DateTime.now().setZone(timeZone.value).toFormat("yyyy-MM-dd'T'HH:mm:ss")) ?? '',
    uploadKbps: kbpsFromMbps(newMbps.value),
    medium: newMedium.value,
    roundTripMilliseconds: null,
    lossPercent: null,
    retransmits: null,
    note: '',
  }
  editing.addSamples('Add a measurement', [sample])
  newMbps.value = null
}

function setTime(id: string, local: string): void {
  const instant = asInstant(local)
  if (instant) editing.changeSample(id, { measuredAt: instant })
}
</script>

<template>
  <div class="card roomy:contain-content flex min-h-0 flex-col">
    <form class="border-rule flex flex-wrap items-end gap-2 border-b p-3" @submit.prevent="add">
      <QuantityField
        id="new-sample"
        v-model="newMbps"
        quantity="measured upload"
        class="w-44"
        label="Measured upload"
        optional
      />
      <SelectField v-model="newMedium" class="w-28" label="By" :choices="mediumChoices" />
      <button type="submit" class="button"><Plus class="size-4" /> Measurement</button>
      <button type="button" class="button" @click="isImporting = true">
        <FileInput class="size-4" /> Bring in …
      </button>
      <button type="button" class="button button-primary" @click="isMeasuring = true">
        <Gauge class="size-4" /> Measure …
      </button>
      <MeasureDialog v-if="isMeasuring" @close="isMeasuring = false" />
      <ImportDialog v-if="isImporting" @close="isImporting = false" />
    </form>
    <ScrollBox class="grow px-3" label="Measurements">
      <table class="w-full">
        <thead class="bg-sheet sticky top-0 z-10">
          <tr class="border-rule text-ink-2 border-b text-xs">
            <th class="py-1.5">Measured</th>
            <th>Upload, Mb/s</th>
            <th>By</th>
            <th class="pr-2 whitespace-nowrap">Trip, ms</th>
            <th class="pr-2">Lost, %</th>
            <th>Note</th>
            <th><span class="sr-only">Remove</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="sample in shown" :key="sample.id" class="border-rule border-b">
            <td class="w-44 py-0.5 pr-2">
              <DateTimeField
                hide-label
                label="Measured at"
                required
                :model-value="localTime(sample.measuredAt)"
                @update:model-value="setTime(sample.id, $event)"
              />
            </td>
            <td class="w-24 min-w-22 pr-2">
              <QuantityField
                quantity="measured upload"
                cell
                label="Upload"
                :model-value="mbpsFromKbps(sample.uploadKbps)"
                @update:model-value="
                  editing.changeSample(sample.id, { uploadKbps: kbpsFromMbps($event) })
                "
              />
            </td>
            <td class="w-26 min-w-26 pr-2">
              <SelectField
                hide-label
                label="By"
                :choices="mediumChoices"
                :model-value="sample.medium"
                @update:model-value="editing.changeSample(sample.id, { medium: $event as Medium })"
              />
            </td>
            <td class="w-22 min-w-18 pr-2">
              <QuantityField
                quantity="round trip"
                cell
                optional
                label="Round trip"
                :model-value="sample.roundTripMilliseconds"
                @update:model-value="
                  editing.changeSample(sample.id, { roundTripMilliseconds: $event })
                "
              />
            </td>
            <td class="w-22 min-w-18 pr-2">
              <QuantityField
                quantity="loss"
                cell
                optional
                label="Lost"
                :model-value="sample.lossPercent"
                @update:model-value="editing.changeSample(sample.id, { lossPercent: $event })"
              />
            </td>
            <td class="min-w-20 pr-2">
              <TextField
                hide-label
                label="Note"
                :model-value="sample.note"
                @update:model-value="editing.changeSample(sample.id, { note: $event })"
              />
              <span v-if="sample.retransmits !== null" class="text-ink-2 text-xs"
                ><span class="number">{{ sample.retransmits }}</span> sent again</span
              >
            </td>
            <td>
              <button
                type="button"
                class="button button-quiet px-1!"
                :aria-label="`Remove the measurement of ${localTime(sample.measuredAt).replace('T', ' ')}`"
                @click="editing.removeSample(sample.id)"
              >
                <Trash2 class="size-4" />
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <button v-if="older > 0" type="button" class="button my-2" @click="shownRows += rowsAtOnce">
        Show {{ Math.min(older, rowsAtOnce) }} of {{ wholeNumber(older) }} older
      </button>
      <p v-if="latestFirst.length === 0" class="text-ink-2 py-4">
        No measurement yet. Measure the upload several times, at the hour of the show, and type each
        result in above. Five or more make a figure to rely on.
      </p>
    </ScrollBox>
  </div>
</template>
