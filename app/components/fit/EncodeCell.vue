<script setup lang="ts">
import { type Effort, efforts } from '@green-mantle/core/show'
import { computed } from 'vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useShowStore } from '~/stores/show'
import { useFitEditing } from './fitEditing'
import PinMark from './PinMark.vue'
import type { FitRow } from './rows'

/** Which encode serves a row, on which device and how hard it works. */
const props = defineProps<{ row: FitRow }>()
const store = useShowStore()
const editing = useFitEditing()
const noDevice = 'not said'

const devices = computed(() => [
  { value: noDevice, label: 'no device' },
  ...store.show.computer.devices.map(({ id, name }) => ({ value: id, label: name })),
])
const effortChoices = efforts.map((value) => ({ value, label: value }))

function setDevice(value: string): void {
  const deviceId = value === noDevice ? null : value
  editing.set(props.row, { encoder: { ...props.row.rendition.encoder, deviceId } }, 'device')
}
</script>

<template>
  <div class="flex items-center gap-0.5">
    <span class="number w-3.5 font-semibold" :title="`Encode ${row.encodeLetter}`">{{
      row.encodeLetter
    }}</span>
    <SelectField
      v-if="store.show.computer.devices.length > 0"
      hide-label
      class="w-40 max-xl:w-28"
      :label="`Device for ${row.name}`"
      :model-value="row.rendition.encoder.deviceId ?? noDevice"
      :choices="devices"
      @update:model-value="setDevice($event as string)"
    />
    <PinMark v-if="store.show.computer.devices.length > 0" :row="row" pin="device" />
    <SelectField
      hide-label
      class="w-22"
      :label="`Effort for ${row.name}`"
      :model-value="row.rendition.effort"
      :choices="effortChoices"
      @update:model-value="editing.set(row, { effort: $event as Effort }, 'effort')"
    />
    <PinMark :row="row" pin="effort" />
  </div>
</template>
