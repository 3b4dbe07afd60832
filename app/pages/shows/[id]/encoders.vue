<script setup lang="ts">
import { demoComputers } from '@green-mantle/demo'
import type { Device } from '@green-mantle/core/show'
import { Plus } from '@lucide/vue'
import { shallowRef } from 'vue'
import { RouterLink } from 'vue-router'
import NumberField from '~/components/fields/NumberField.vue'
import ReadFreeDisk from '~/components/encoders/ReadFreeDisk.vue'
import MeasureBrowser from '~/components/encoders/MeasureBrowser.vue'
import MeasureComputer from '~/components/encoders/MeasureComputer.vue'
import MeasurePicture from '~/components/picture/MeasurePicture.vue'
import TextField from '~/components/fields/TextField.vue'
import { useComputerEditing } from '~/components/fit/computerEditing'
import DeviceCard from '~/components/fit/DeviceCard.vue'
import EncoderLogDialog from '~/components/fit/EncoderLogDialog.vue'
import { useShowStore } from '~/stores/show'

const store = useShowStore()
const editing = useComputerEditing()
const importing = shallowRef<Device>()
</script>

<template>
  <div class="roomy:h-full roomy:overflow-y-auto flex flex-col gap-3 p-4">
    <div class="flex flex-wrap items-end gap-3">
      <div>
        <RouterLink class="link" :to="`/shows/${store.id}/fit`">Fit</RouterLink>
        <h2 class="text-2xl">Encoders of this computer</h2>
      </div>
      <TextField
        class="w-56"
        label="Computer"
        :model-value="store.show.computer.name"
        @update:model-value="editing.change('Name the computer', { name: $event })"
      />
      <NumberField
        class="w-36"
        label="Free for recordings"
        unit="GB"
        optional
        :decimals="1"
        :min="0"
        :max="1000000"
        :model-value="store.show.computer.freeDiskGigabytes"
        @update:model-value="editing.change('Set the free disk', { freeDiskGigabytes: $event })"
      />
      <ReadFreeDisk @read="editing.change('Read the free disk', { freeDiskGigabytes: $event })" />
      <button type="button" class="button" @click="editing.addDevice">
        <Plus class="size-4" /> Device
      </button>
    </div>
    <div class="flex flex-wrap items-start gap-3">
      <p class="text-ink-2 min-w-64 flex-1">
        How many megapixels a second each device encodes, per codec and effort: width × height ×
        frames a second ÷ one million. An empty field means that it can’t. Both computers offered
        here are invented; measure your own.
      </p>
      <button
        v-for="computer in demoComputers"
        :key="computer.name"
        type="button"
        class="button"
        @click="editing.take(computer)"
      >
        Use {{ computer.name }}
      </button>
    </div>
    <MeasureComputer @take="editing.take($event)" />
    <MeasureBrowser @take="editing.take($event)" />
    <MeasurePicture />
    <DeviceCard
      v-for="device in store.show.computer.devices"
      :key="device.id"
      :device="device"
      @import="importing = device"
    />
    <p v-if="store.show.computer.devices.length === 0">
      No device is here yet. Measure this computer, add a device by hand, or begin with one of the
      invented computers.
    </p>
    <EncoderLogDialog v-if="importing" :device="importing" @close="importing = undefined" />
  </div>
</template>
