<script setup lang="ts">
import { type Destination, fedBy } from '@green-mantle/core/show'
import { computed } from 'vue'
import { useShowStore } from '~/stores/show'
import { useDestinationEditing } from '../destinationEditing'

/** What a relay passes its one send on to. */
const props = defineProps<{ relay: Destination }>()
const store = useShowStore()
const editing = useDestinationEditing()
const candidates = computed(() =>
  store.show.destinations.filter(
    ({ canvas, connection }) => canvas === props.relay.canvas && connection === 'address and key',
  ),
)
const count = computed(() => fedBy(store.show.destinations, props.relay).length)

function toggle(destination: Destination): void {
  const isFed = destination.relayId === props.relay.id
  const label = isFed ? 'Send directly to' : `Feed through ${props.relay.name}:`
  editing.change(destination.id, label, (changed) => {
    changed.relayId = isFed ? null : props.relay.id
  })
}
</script>

<template>
  <fieldset>
    <legend class="text-ink-2 mb-0.5 text-xs">
      It feeds ({{ count }} of at most {{ relay.rules.mostFed }} on)
    </legend>
    <div class="flex flex-wrap gap-1">
      <button
        v-for="destination in candidates"
        :key="destination.id"
        type="button"
        class="button text-xs"
        :aria-pressed="destination.relayId === relay.id"
        @click="toggle(destination)"
      >
        {{ destination.name }}
      </button>
    </div>
  </fieldset>
</template>
