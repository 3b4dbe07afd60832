<script setup lang="ts">
import { lineOf, headroomLimitsPercent } from '@green-mantle/core/show'
import { kbpsFromMbps, mbpsFromKbps, mbpsNumber, megabitUnits } from '@green-mantle/core/words'
import { Plus, Trash2 } from '@lucide/vue'
import { nanoid } from 'nanoid'
import { computed } from 'vue'
import NumberField from '~/components/fields/NumberField.vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import TextField from '~/components/fields/TextField.vue'
import { useShowStore } from '~/stores/show'

const store = useShowStore()
const upload = computed(() => store.verdict.budget.upload)
const basis = computed(
  () =>
    ({
      'low percentile': 'Nine measurements in ten reach (P10)',
      'smallest sample': `The smallest of ${upload.value.sampleCount} (five are needed for P10)`,
      'no samples': 'Not measured yet',
    })[upload.value.basis],
)

function setHeadroom(percent: number | null): void {
  if (percent === null) return
  store.edit(
    'Set the headroom',
    (draft) => {
      lineOf(draft).headroomPercent = percent
    },
    { mergeKey: 'headroom' },
  )
}

type Traffic = (typeof store.line)['otherTraffic'][number]

function changeTraffic(id: string, label: string, recipe: (traffic: Traffic) => void): void {
  store.edit(label, (draft) => {
    const traffic = lineOf(draft).otherTraffic.find((candidate) => candidate.id === id)
    if (traffic) recipe(traffic)
  })
}

function addTraffic(): void {
  const traffic = { id: nanoid(12), name: 'Call', bitrateKbps: 1500, on: true }
  store.edit('Add other traffic', (draft) => {
    lineOf(draft).otherTraffic.push(traffic)
  })
}

function removeTraffic(id: string): void {
  store.edit('Remove other traffic', (draft) => {
    lineOf(draft).otherTraffic = lineOf(draft).otherTraffic.filter((traffic) => traffic.id !== id)
  })
}
</script>

<template>
  <section class="card p-4" aria-labelledby="sum-title">
    <h2 id="sum-title" class="mb-2 text-lg">What may be spent</h2>
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
        :min="headroomLimitsPercent.least"
        :max="headroomLimitsPercent.most"
        :value="store.line.headroomPercent"
        @input="setHeadroom(Number(($event.target as HTMLInputElement).value))"
        @change="store.endMerge()"
      />
      <NumberField
        hide-label
        label="Headroom"
        unit="%"
        :units="{ '%': 1 }"
        :least="headroomLimitsPercent.least"
        :most="headroomLimitsPercent.most"
        :decimals="1"
        :model-value="store.line.headroomPercent"
        @update:model-value="setHeadroom"
      />
    </div>
    <div class="flex items-baseline justify-between">
      <span>Other traffic on the line</span>
      <span class="number text-madder text-base">−{{ mbpsNumber(upload.otherTrafficKbps) }}</span>
    </div>
    <ul class="mt-1 flex flex-col gap-1" aria-label="Other traffic">
      <li
        v-for="traffic in store.line.otherTraffic"
        :key="traffic.id"
        class="grid grid-cols-[2.5rem_1fr_7.5rem_2rem] items-center gap-2"
      >
        <OnSwitch
          :model-value="traffic.on"
          :label="`${traffic.name} counts`"
          @update:model-value="
            changeTraffic(traffic.id, 'Switch other traffic', (changed) => (changed.on = $event))
          "
        />
        <TextField
          hide-label
          label="What else uses the line"
          required
          :model-value="traffic.name"
          @update:model-value="
            changeTraffic(traffic.id, 'Rename other traffic', (changed) => (changed.name = $event))
          "
        />
        <NumberField
          hide-label
          :label="`${traffic.name}, Mb/s`"
          unit="Mb/s"
          :units="megabitUnits"
          :decimals="3"
          :step="0.1"
          :least="0"
          :most="100000"
          :model-value="mbpsFromKbps(traffic.bitrateKbps)"
          @update:model-value="
            changeTraffic(
              traffic.id,
              'Set other traffic',
              (changed) => (changed.bitrateKbps = kbpsFromMbps($event ?? 0)),
            )
          "
        />
        <button
          type="button"
          class="button button-quiet px-1!"
          :aria-label="`Remove ${traffic.name}`"
          @click="removeTraffic(traffic.id)"
        >
          <Trash2 class="size-4" />
        </button>
      </li>
    </ul>
    <button type="button" class="button mt-1.5" @click="addTraffic">
      <Plus class="size-4" /> Other traffic
    </button>
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
