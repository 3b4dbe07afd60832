<script setup lang="ts">
import { breachesOf } from '@green-mantle/core/fit'
import { type Destination, profileState, relayOf } from '@green-mantle/core/show'
import { protocolNames, screenNames } from '@green-mantle/core/words'
import {
  Hand,
  KeyRound,
  Monitor,
  Radio,
  Smartphone,
  TriangleAlert,
  Tv,
  Waypoints,
} from '@lucide/vue'
import { computed } from 'vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import { useKeysStore } from '~/stores/keys'
import { useProfilesStore } from '~/stores/profiles'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useDestinationEditing } from './destinationEditing'
import { limitsInWords } from './limitsInWords'

const props = defineProps<{ destination: Destination }>()
const store = useShowStore()
const selection = useSelectionStore()
const editing = useDestinationEditing()
const keys = useKeysStore()
const profiles = useProfilesStore()

const isChosen = computed(() => selection.destination?.id === props.destination.id)
const key = computed(() => keys.stateOf(props.destination))
const relay = computed(() => relayOf(store.show.destinations, props.destination))
const profile = computed(() => profileState(props.destination, profiles.profiles))
const breachCount = computed(() => breachesOf(props.destination, store.show.canvasPair).length)
const screenIcons = { phone: Smartphone, desk: Monitor, tv: Tv }
</script>

<template>
  <li
    class="card relative p-3 pr-14"
    :class="isChosen ? 'outline-moss outline-2' : ''"
    :data-destination="destination.name"
  >
    <button
      type="button"
      class="block w-full text-left after:absolute after:inset-0 after:rounded-lg"
      :aria-pressed="isChosen"
      @click="selection.destinationId = destination.id"
    >
      <span class="font-title mr-2 text-base font-semibold">{{ destination.name }}</span>
      <span class="text-ink-2 text-xs"
        >{{ destination.connection }}, {{ protocolNames[destination.protocol] }}</span
      >
      <span class="number block text-xs">{{ limitsInWords(destination.rules) }}</span>
      <span class="mt-1 flex flex-wrap items-center gap-x-3 gap-y-0.5 text-xs">
        <span class="flex items-center gap-1">
          <Hand v-if="destination.rules.start === 'pressed on its page'" class="size-3.5" />
          <Radio v-else class="size-3.5" />
          start: {{ destination.rules.start }}
        </span>
        <span class="flex items-center gap-1">
          <component :is="screenIcons[destination.viewers[0] ?? 'desk']" class="size-3.5" />
          {{ destination.viewers.map((screen) => screenNames[screen]).join(', ') }}
        </span>
        <span
          v-if="key.state !== 'none needed'"
          class="flex items-center gap-1"
          :class="key.state === 'present' ? '' : 'text-ochre font-semibold'"
        >
          <KeyRound class="size-3.5" /> {{ key.words }}
        </span>
        <span v-if="relay" class="flex items-center gap-1">
          <Waypoints class="size-3.5" /> through {{ relay.name }}
        </span>
        <span v-if="profile === 'older'" class="text-ochre flex items-center gap-1 font-semibold">
          <TriangleAlert class="size-3.5" /> its profile is older
        </span>
        <span v-if="destination.renditions.length > 1">
          ladder of {{ destination.renditions.length }}
        </span>
        <span v-if="breachCount > 0" class="text-ochre flex items-center gap-1 font-semibold">
          <TriangleAlert class="size-3.5" />
          {{ breachCount === 1 ? 'a rule is' : `${breachCount} rules are` }} not kept on Fit
        </span>
        <span v-if="destination.note" class="text-ink-2">{{ destination.note }}</span>
      </span>
    </button>
    <OnSwitch
      class="absolute! top-3 right-3"
      :model-value="destination.on"
      :label="`${destination.name} is on`"
      @update:model-value="
        editing.change(destination.id, $event ? 'Switch on' : 'Switch off', (changed) => {
          changed.on = $event
        })
      "
    />
  </li>
</template>
