<script setup lang="ts">
import {
  type Codec,
  codecs,
  type Device,
  type DeviceKind,
  deviceKinds,
  type Effort,
  efforts,
} from '@green-mantle/core/show'
import { hasEfficiencies } from '@green-mantle/core/measured'
import { measuredEfficiency } from '@green-mantle/core/media'
import { codecNames, wholeNumber } from '@green-mantle/core/words'
import { FileInput, Trash2 } from '@lucide/vue'
import { computed } from 'vue'
import NumberField from '~/components/fields/NumberField.vue'
import QuantityField from '~/components/fields/QuantityField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import { useComputerEditing } from './computerEditing'

/** One device: what it is, how much of it may be planned, and how fast it is at each codec and effort. */
const props = defineProps<{ device: Device }>()
defineEmits<{ import: [] }>()
const editing = useComputerEditing()

const kinds = deviceKinds.map((value) => ({ value, label: value }))
const speedOf = (codec: Codec, effort: Effort): number | null =>
  props.device.throughputs.find((speed) => speed.codec === codec && speed.effort === effort)
    ?.megapixelsPerSecond ?? null
/** What every frame costs besides its pixels, where it was measured. */
const costOf = (codec: Codec, effort: Effort): number | undefined =>
  props.device.throughputs.find((speed) => speed.codec === codec && speed.effort === effort)
    ?.millisecondsAFrame
/** What it gets out of a bit, where it was measured. */
const efficiencyOf = (codec: Codec, effort: Effort): number | undefined =>
  measuredEfficiency(props.device, { codec, effort })
const hasFrameCosts = computed(() =>
  props.device.throughputs.some(({ millisecondsAFrame }) => millisecondsAFrame !== undefined),
)
const set = (changes: Partial<Device>): void => editing.changeDevice(props.device, changes)
</script>

<template>
  <section class="card p-3.5" :aria-labelledby="`device-${device.id}`">
    <h3 :id="`device-${device.id}`" class="sr-only">{{ device.name }}</h3>
    <div class="flex flex-wrap items-end gap-2">
      <TextField
        class="w-52"
        label="Device"
        :model-value="device.name"
        @update:model-value="$event.trim() && set({ name: $event.trim() })"
      />
      <SelectField
        class="w-28"
        label="Kind"
        :model-value="device.kind"
        :choices="kinds"
        @update:model-value="set({ kind: $event as DeviceKind })"
      />
      <QuantityField
        quantity="planned share"
        class="w-24"
        label="Plan up to"
        :model-value="device.plannedSharePercent"
        @update:model-value="set({ plannedSharePercent: $event })"
      />
      <NumberField
        class="w-32"
        label="Encodes at once"
        optional
        :model-value="device.sessions"
        :min="1"
        :max="64"
        @update:model-value="set({ sessions: $event })"
      />
      <QuantityField
        quantity="side"
        class="w-24"
        label="Widest"
        :model-value="device.largest.width"
        @update:model-value="set({ largest: { ...device.largest, width: $event } })"
      />
      <QuantityField
        quantity="side"
        class="w-24"
        label="Highest"
        :model-value="device.largest.height"
        @update:model-value="set({ largest: { ...device.largest, height: $event } })"
      />
      <span class="grow" />
      <div class="flex gap-2">
        <button
          type="button"
          class="button"
          :aria-label="`Bring in a log of ${device.name}`"
          @click="$emit('import')"
        >
          <FileInput class="size-4" /> From a log …
        </button>
        <button
          type="button"
          class="button button-quiet"
          :aria-label="`Remove ${device.name}`"
          @click="editing.removeDevice(device)"
        >
          <Trash2 class="size-4" />
        </button>
      </div>
    </div>
    <p v-if="device.togetherFactor && device.togetherFactor > 1" class="text-ink-2 mt-2">
      Several encodes at once take {{ wholeNumber((device.togetherFactor - 1) * 100) }} % more of it
      than their sum, as measured.
    </p>
    <div class="relative mt-3 overflow-x-auto">
      <table>
        <thead>
          <tr class="text-ink-2 text-xs">
            <th class="pr-3 text-left">
              Megapixels a second{{ hasFrameCosts ? ', + what a frame costs besides' : '' }}
            </th>
            <th v-for="effort in efforts" :key="effort" class="pr-2 text-right">{{ effort }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="codec in codecs" :key="codec">
            <th scope="row" class="pr-3 text-left font-normal">{{ codecNames[codec] }}</th>
            <td v-for="effort in efforts" :key="effort" class="py-0.5 pr-2">
              <NumberField
                hide-label
                class="w-22"
                optional
                :label="`${device.name}: ${codecNames[codec]}, ${effort}, megapixels a second`"
                :model-value="speedOf(codec, effort)"
                :decimals="1"
                :min="0.1"
                :max="1000000"
                @update:model-value="editing.setSpeed(device, codec, effort, $event)"
              />
              <span v-if="costOf(codec, effort)" class="number text-ink-2 block text-right text-xs">
                + {{ costOf(codec, effort) }} ms
              </span>
              <span
                v-if="efficiencyOf(codec, effort)"
                class="number text-ink-2 block text-right text-xs"
              >
                × {{ efficiencyOf(codec, effort)?.toFixed(2) }}
              </span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="hasEfficiencies(device)" class="text-ink-2 mt-2 max-w-[75ch] text-xs">
      × is what it gets out of a bit beside software H.264 at its finest, as measured on a moving
      picture without a camera. Scores and plans go by it; where it stands nowhere, by usual values.
    </p>
  </section>
</template>
