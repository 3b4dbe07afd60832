<script setup lang="ts">
import { headroomLimitsPercent, media } from '@green-mantle/core/show'
import { mbpsInWords, mbpsNumber, mediumNames, shareThatReaches } from '@green-mantle/core/words'
import { Plus } from '@lucide/vue'
import { computed } from 'vue'
import QuantityField from '~/components/fields/QuantityField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useOwnTask } from '~/composables/ownTask'
import { useShowStore } from '~/stores/show'
import { useLineEditing } from './lineEditing'
import TrafficList from './TrafficList.vue'

const store = useShowStore()
const editing = useLineEditing()
const otherTraffic = editing.trafficEditing((line) => line.otherTraffic, 'other traffic')
const upload = computed(() => store.verdict.budget.upload)
const basis = computed(
  () =>
    ({
      'low percentile': `${shareThatReaches(store.line.lowPercentile)} of ${upload.value.sampleCount} measurements reach (P${store.line.lowPercentile})`,
      'smallest sample': `The smallest of ${upload.value.sampleCount} (five are needed for a percentile)`,
      'no samples': 'Not measured yet',
    })[upload.value.basis],
)
const peaksBasis =
  'A send’s busiest second is some 15 % above its mean at constant bitrate (9 to 21 measured by us on real encodes with a one-second buffer), and more at a variable one (30, a working value). Counted as if all sends were busy at once.'
const peaksInWords = computed(() =>
  upload.value.peaksBeyondHeadroomKbps > 0
    ? `Room for peaks, ${mbpsInWords(upload.value.peaksKbps)}, beyond the headroom`
    : `Room for peaks, ${mbpsInWords(upload.value.peaksKbps)}, is within the headroom`,
)
const everyMedium = { value: '', label: 'every measurement' }
const mediumChoices = [
  everyMedium,
  ...media.map((value) => ({ value, label: `those by ${mediumNames[value]}` })),
]

function setHeadroom(percent: number): void {
  editing.change('Set the headroom', (line) => void (line.headroomPercent = percent), 'headroom')
}

const dragged = useOwnTask(setHeadroom)

function endDrag(): void {
  dragged.finish()
  store.endMerge()
}

function setPercentile(percentile: number): void {
  editing.change('Set the percentile', (line) => void (line.lowPercentile = percentile))
}

function setMedium(value: string): void {
  const medium = media.find((candidate) => candidate === value) ?? null
  editing.change('Choose what counts', (line) => void (line.medium = medium))
}
</script>

<template>
  <section class="card contain-layout p-4" aria-labelledby="sum-title">
    <h2 id="sum-title" class="mb-2 text-lg">What may be spent</h2>
    <div class="mb-2 grid grid-cols-[1fr_7rem] items-end gap-3">
      <SelectField
        label="What counts"
        :model-value="store.line.medium ?? ''"
        :choices="mediumChoices"
        @update:model-value="setMedium"
      />
      <QuantityField
        quantity="low percentile"
        label="Low percentile"
        :model-value="store.line.lowPercentile"
        @update:model-value="setPercentile"
      />
    </div>
    <dl class="grid grid-cols-[1fr_auto] items-baseline gap-y-1.5">
      <dt>{{ basis }}</dt>
      <dd class="number text-right text-base">{{ mbpsNumber(upload.measuredKbps) }}</dd>
      <dt>Headroom left alone, {{ store.line.headroomPercent }} %</dt>
      <dd class="number text-madder text-right text-base">
        −{{ mbpsNumber(upload.headroomKbps) }}
      </dd>
    </dl>
    <div class="my-1.5 grid grid-cols-[1fr_6rem] items-center gap-3">
      <input
        type="range"
        class="accent-moss h-6 w-full"
        aria-label="Headroom, percent"
        :min="headroomLimitsPercent.min"
        :max="headroomLimitsPercent.max"
        :value="store.line.headroomPercent"
        @input="dragged.later(Number(($event.target as HTMLInputElement).value))"
        @change="endDrag"
      />
      <QuantityField
        quantity="headroom"
        hide-label
        label="Headroom"
        :model-value="store.line.headroomPercent"
        @update:model-value="setHeadroom"
      />
    </div>
    <div class="flex items-baseline justify-between">
      <span>Other traffic on the line</span>
      <span class="number text-madder text-base">−{{ mbpsNumber(upload.otherTrafficKbps) }}</span>
    </div>
    <TrafficList
      label="Other traffic"
      name-label="What else uses the line"
      :traffic="store.line.otherTraffic"
      @set="otherTraffic.set"
      @remove="otherTraffic.remove"
    />
    <button type="button" class="button mt-1.5" @click="otherTraffic.add('Call', 1500)">
      <Plus class="size-4" /> Other traffic
    </button>
    <div class="mt-1.5 flex items-baseline justify-between gap-3" :title="peaksBasis">
      <span>{{ peaksInWords }}</span>
      <span class="number text-madder text-base"
        >−{{ mbpsNumber(upload.peaksBeyondHeadroomKbps) }}</span
      >
    </div>
    <div class="border-ink mt-3 flex items-baseline justify-between border-t-2 pt-2">
      <span class="font-semibold">Usable for sends</span>
      <span
        ><span class="number text-2xl font-bold" data-testid="usable">{{
          mbpsNumber(upload.usableKbps)
        }}</span>
        Mb/s</span
      >
    </div>
  </section>
</template>
