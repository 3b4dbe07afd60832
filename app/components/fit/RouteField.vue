<script setup lang="ts">
import type { Destination } from '@green-mantle/core/show'
import { computed } from 'vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useShowStore } from '~/stores/show'
import { useFitEditing } from './fitEditing'

/** Whether a destination is sent to directly, fed by a relay, or left to the planner. */
const props = defineProps<{ destination: Destination }>()
const store = useShowStore()
const editing = useFitEditing()
const directly = 'directly'
const open = 'planner chooses'

const relays = computed(() =>
  store.show.destinations.filter(
    ({ connection, canvas }) => connection === 'relay' && canvas === props.destination.canvas,
  ),
)
const choices = computed(() => [
  { value: open, label: open },
  { value: directly, label: directly },
  ...relays.value.map(({ id, name }) => ({ value: id, label: `through ${name}` })),
])
const value = computed(() =>
  props.destination.plan.routePinned ? (props.destination.relayId ?? directly) : open,
)

function set(chosen: string): void {
  const { id, name } = props.destination
  if (chosen === open) editing.freeRoute(id, name)
  else editing.pinRoute(id, name, chosen === directly ? null : chosen)
}
</script>

<template>
  <SelectField
    v-if="relays.length > 0"
    label="Route"
    :model-value="value"
    :choices="choices"
    @update:model-value="set($event as string)"
  />
</template>
