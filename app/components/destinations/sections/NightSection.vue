<script setup lang="ts">
import {
  chatPlaces,
  type Destination,
  endProcedures,
  keyLives,
  lagSecondsLimits,
  type Rules,
  startProcedures,
} from '@green-mantle/core/show'
import { hourUnits, secondUnits } from '@green-mantle/core/words'
import NumberField from '~/components/fields/NumberField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import AddressField from '../AddressField.vue'
import { useDestinationEditing } from '../destinationEditing'

/** What is pressed where to start and to end, how long its key lives, and who reads its chat. */
const props = defineProps<{ destination: Destination }>()
const editing = useDestinationEditing()

function setRules(changes: Partial<Rules>): void {
  editing.change(props.destination.id, 'Change the rules of', ({ rules }) => {
    Object.assign(rules, changes)
  })
}
function set(label: string, changes: Partial<Destination>): void {
  editing.change(props.destination.id, label, (destination) => {
    Object.assign(destination, changes)
  })
}
const plain = <Value extends string>(values: readonly Value[]) =>
  values.map((value) => ({ value, label: value }))
</script>

<template>
  <div class="flex flex-col gap-2">
    <div class="grid grid-cols-2 gap-2">
      <SelectField
        label="Start"
        :model-value="destination.rules.start"
        :choices="plain(startProcedures)"
        @update:model-value="setRules({ start: $event })"
      />
      <SelectField
        label="End"
        :model-value="destination.rules.end"
        :choices="plain(endProcedures)"
        @update:model-value="setRules({ end: $event })"
      />
      <SelectField
        label="Its key is"
        :model-value="destination.rules.key.life"
        :choices="plain(keyLives)"
        @update:model-value="setRules({ key: { ...destination.rules.key, life: $event } })"
      />
      <NumberField
        v-if="destination.rules.key.life === 'per session'"
        label="A key is good for"
        unit="h"
        optional
        :units="hourUnits"
        :decimals="1"
        :min="0.1"
        :max="10000"
        :model-value="destination.rules.key.hours"
        @update:model-value="setRules({ key: { ...destination.rules.key, hours: $event } })"
      />
      <SelectField
        label="Its chat"
        :model-value="destination.rules.chat"
        :choices="plain(chatPlaces)"
        @update:model-value="setRules({ chat: $event })"
      />
      <TextField
        v-if="destination.rules.chat !== 'no chat'"
        label="Read by"
        :model-value="destination.chatReadBy"
        @update:model-value="set('Say who reads the chat of', { chatReadBy: $event })"
      />
      <NumberField
        label="Its page shows the picture after"
        unit="s"
        :units="secondUnits"
        :min="lagSecondsLimits.min"
        :max="lagSecondsLimits.max"
        :decimals="1"
        :model-value="destination.lagSeconds"
        @update:model-value="set('Set the lag of', { lagSeconds: $event })"
      />
    </div>
    <AddressField
      v-if="destination.rules.chat !== 'no chat'"
      label="Where its chat is read"
      protocol="whip"
      :model-value="destination.chatAddress"
      @update:model-value="set('Say where to read the chat of', { chatAddress: $event })"
    />
  </div>
</template>
