<script setup lang="ts">
import {
  connections,
  type Destination,
  handOffSounds,
  type Protocol,
  protocols,
  rtmpChunkLimitsBytes,
  streamNames,
} from '@green-mantle/core/show'
import { protocolNames } from '@green-mantle/core/words'
import { computed } from 'vue'
import QuantityField from '~/components/fields/QuantityField.vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import { useShowStore } from '~/stores/show'
import AccountSection from '../accounts/AccountSection.vue'
import AddressField from '../AddressField.vue'
import { useDestinationEditing } from '../destinationEditing'
import KeyField from '../keys/KeyField.vue'
import FedList from './FedList.vue'

/** How a destination is reached. */
const props = defineProps<{ destination: Destination }>()
const store = useShowStore()
const editing = useDestinationEditing()

function set(label: string, changes: Partial<Destination>): void {
  editing.change(props.destination.id, label, (destination) => {
    Object.assign(destination, changes)
  })
}
const setPath = (changes: Partial<Destination['path']>): void =>
  set('Set the path to', { path: { ...props.destination.path, ...changes } })
/** Where nothing is known of them they are absent. */
function setChunks(rtmpChunkBytes: number | null): void {
  const { rtmpChunkBytes: _, ...path } = props.destination.path
  set('Set the path to', {
    path: rtmpChunkBytes === null ? path : { ...path, rtmpChunkBytes },
  })
}
const setHandOff = (changes: Partial<Destination['handOff']>): void =>
  set('Set the hand-off to', { handOff: { ...props.destination.handOff, ...changes } })

const connectionChoices = connections.map((value) => ({ value, label: value }))
const protocolChoices = protocols.map((value) => ({ value, label: protocolNames[value] }))
const soundChoices = handOffSounds.map((value) => ({ value, label: value }))
const byAddress = computed(
  () =>
    props.destination.connection === 'address and key' || props.destination.connection === 'relay',
)
const relays = computed(() =>
  store.show.destinations.filter(
    ({ connection, id }) => connection === 'relay' && id !== props.destination.id,
  ),
)
const relayChoices = computed(() => [
  { value: '', label: 'directly' },
  ...relays.value.map(({ id, name }) => ({ value: id, label: `through ${name}` })),
])
const derivedNames = computed(() => streamNames(props.destination).filter(Boolean))
</script>

<template>
  <div class="flex flex-col gap-3">
    <div class="grid grid-cols-2 gap-2">
      <SelectField
        label="Connection"
        :model-value="destination.connection"
        :choices="connectionChoices"
        @update:model-value="editing.setConnection(destination, $event)"
      />
      <SelectField
        label="Protocol"
        :model-value="destination.protocol"
        :choices="protocolChoices"
        @update:model-value="set('Change the protocol of', { protocol: $event as Protocol })"
      />
      <SelectField
        v-if="destination.connection !== 'relay' && relays.length > 0"
        label="Sent to"
        :model-value="destination.relayId ?? ''"
        :choices="relayChoices"
        @update:model-value="set('Change the way to', { relayId: $event || null })"
      />
    </div>
    <FedList v-if="destination.connection === 'relay'" :relay="destination" />
    <template v-if="byAddress && destination.relayId === null">
      <AddressField
        label="Server address"
        :protocol="destination.protocol"
        :model-value="destination.serverAddress"
        @update:model-value="set('Set the address of', { serverAddress: $event })"
      />
      <KeyField :key="destination.id" :destination="destination" />
      <div v-if="destination.rules.mostRenditions > 1">
        <TextField
          label="Stream name"
          :max="100"
          :model-value="destination.streamName"
          @update:model-value="
            set('Set the stream name of', {
              streamName: $event.replaceAll(/[^A-Za-z0-9_.-]/g, ''),
            })
          "
        />
        <p v-if="derivedNames.length > 0" class="text-ink-2 mt-0.5 text-xs">
          Sent as <span class="number">{{ derivedNames.join(', ') }}</span>, largest first.
        </p>
      </div>
      <div class="flex items-center gap-2">
        <OnSwitch
          label="Send to its backup ingest as well"
          :model-value="destination.backupAddress !== null"
          @update:model-value="
            set($event ? 'Use the backup of' : 'Leave the backup of', {
              backupAddress: $event ? '' : null,
            })
          "
        />
        <span aria-hidden="true"
          >Backup ingest as well<template v-if="!destination.rules.offersBackup"
            >, though its rules offer none</template
          ></span
        >
      </div>
      <AddressField
        v-if="destination.backupAddress !== null"
        label="Backup address"
        :protocol="destination.protocol"
        :model-value="destination.backupAddress"
        @update:model-value="set('Set the backup address of', { backupAddress: $event })"
      />
    </template>
    <AccountSection
      v-if="destination.connection === 'linked account'"
      :key="destination.id"
      :destination="destination"
    />
    <div v-if="destination.connection === 'hand-off'" class="flex flex-col gap-2">
      <p class="text-ink-2 text-xs">
        Its own program runs on this computer and takes our canvas as a camera; its bitrate and its
        encode are counted.
      </p>
      <SelectField
        label="Its program takes as sound"
        :model-value="destination.handOff.sound"
        :choices="soundChoices"
        @update:model-value="setHandOff({ sound: $event })"
      />
      <div class="flex items-center gap-2">
        <OnSwitch
          label="Its program mirrors the picture"
          :model-value="destination.handOff.mirrorsPicture"
          @update:model-value="setHandOff({ mirrorsPicture: $event })"
        />
        <span aria-hidden="true">Its program mirrors the picture</span>
      </div>
      <div class="flex items-center gap-2">
        <OnSwitch
          label="We hand it a mirrored picture"
          :model-value="destination.handOff.isMirroredBack"
          @update:model-value="setHandOff({ isMirroredBack: $event })"
        />
        <span aria-hidden="true">We hand it a mirrored picture</span>
      </div>
    </div>
    <div v-if="destination.relayId === null" class="grid grid-cols-2 gap-2">
      <QuantityField
        quantity="round trip"
        label="Round trip to it"
        optional
        :model-value="destination.path.roundTripMilliseconds"
        @update:model-value="setPath({ roundTripMilliseconds: $event })"
      />
      <QuantityField
        quantity="loss"
        label="Lost on the way"
        optional
        :model-value="destination.path.lossPercent"
        @update:model-value="setPath({ lossPercent: $event })"
      />
      <QuantityField
        v-if="destination.protocol === 'rtmp' || destination.protocol === 'rtmps'"
        quantity="chunk size"
        :label="`RTMP chunks, if not of ${rtmpChunkLimitsBytes.default}`"
        optional
        :model-value="destination.path.rtmpChunkBytes ?? null"
        @update:model-value="setChunks"
      />
    </div>
  </div>
</template>
