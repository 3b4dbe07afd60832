<script setup lang="ts">
import {
  type CanvasName,
  canvasNames,
  type Connection,
  connections,
  type Destination,
  type Protocol,
  protocols,
  type ViewerScreen,
  viewerScreens,
} from '@green-mantle/core/show'
import { protocolNames, screenNames } from '@green-mantle/core/words'
import { Trash2 } from '@lucide/vue'
import ChoiceSet from '~/components/fields/ChoiceSet.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import CoverZoneEditor from './CoverZoneEditor.vue'
import { useDestinationEditing } from './editing'
import { furtherLimitsInWords } from './limitsInWords'
import RulesEditor from './RulesEditor.vue'

const props = defineProps<{ destination: Destination }>()
const editing = useDestinationEditing()

function set(label: string, changes: Partial<Destination>): void {
  editing.change(props.destination.id, label, (destination) => {
    Object.assign(destination, changes)
  })
}

const plain = <Value extends string>(values: readonly Value[]) =>
  values.map((value) => ({ value, label: value }))
const canvasChoices = plain(canvasNames)
const connectionChoices = plain(connections)
const protocolChoices = protocols.map((value) => ({ value, label: protocolNames[value] }))
const screenChoices = viewerScreens.map((value) => ({ value, label: screenNames[value] }))
</script>

<template>
  <div class="flex flex-col gap-3">
    <div>
      <h2 class="text-xl">{{ destination.name }}</h2>
      <p class="text-ink-2 text-xs">{{ furtherLimitsInWords(destination.rules) }}</p>
    </div>
    <div class="border-rule grid grid-cols-2 gap-2 border-t pt-3">
      <TextField
        id="destination-name"
        label="Name"
        required
        :model-value="destination.name"
        @update:model-value="set('Rename', { name: $event })"
      />
      <TextField
        label="Note"
        :model-value="destination.note"
        @update:model-value="set('Note on', { note: $event })"
      />
      <SelectField
        label="Canvas"
        :model-value="destination.canvas"
        :choices="canvasChoices"
        @update:model-value="set('Change the canvas of', { canvas: $event as CanvasName })"
      />
      <SelectField
        label="Connection"
        :model-value="destination.connection"
        :choices="connectionChoices"
        @update:model-value="set('Change the connection of', { connection: $event as Connection })"
      />
      <SelectField
        label="Protocol"
        :model-value="destination.protocol"
        :choices="protocolChoices"
        @update:model-value="set('Change the protocol of', { protocol: $event as Protocol })"
      />
      <ChoiceSet
        label="Viewers watch on"
        :model-value="destination.viewers"
        :choices="screenChoices"
        @update:model-value="set('Change the viewers of', { viewers: $event as ViewerScreen[] })"
      />
    </div>
    <div class="border-rule border-t pt-3">
      <h3 class="mb-2 text-base">What it accepts</h3>
      <RulesEditor :destination="destination" />
    </div>
    <div class="border-rule border-t pt-3">
      <h3 class="mb-2 text-base">What covers the picture</h3>
      <CoverZoneEditor :key="destination.id" :destination="destination" />
    </div>
    <button type="button" class="button self-start" @click="editing.remove(destination.id)">
      <Trash2 class="size-4" /> Remove {{ destination.name }}
    </button>
  </div>
</template>
