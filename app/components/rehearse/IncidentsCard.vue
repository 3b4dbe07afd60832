<script setup lang="ts">
import type { Incident, IncidentKind, Medium } from '@green-mantle/core/show'
import { media } from '@green-mantle/core/show'
import { usualIncidents } from '@green-mantle/core/simulation'
import { mediumNames, percentUnits, rateUnits, secondUnits } from '@green-mantle/core/words'
import { Plus, Trash2 } from '@lucide/vue'
import { computed } from 'vue'
import NumberField from '~/components/fields/NumberField.vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useRehearsalStore } from '~/stores/rehearsal'
import { useShowStore } from '~/stores/show'
import { useToastStore } from '~/stores/toasts'
import { useIncidents } from './incidentEditing'
import { useTimeAxis } from './timeAxis'

/** What if: usual incidents to put in, and the numbers of the chosen one. */
const store = useShowStore()
const rehearsal = useRehearsalStore()
const toasts = useToastStore()
const incidents = useIncidents()
const { seconds } = useTimeAxis()

const kinds = Object.entries(usualIncidents).map(([kind, { label }]) => ({
  kind: kind as IncidentKind,
  label,
}))
const chosen = computed(() =>
  store.show.rehearsal.incidents.find(({ id }) => id === incidents.chosenId.value),
)
const devices = computed(() =>
  store.show.computer.devices.map(({ id, name }) => ({ value: id, label: name })),
)
const destinations = computed(() =>
  store.show.destinations
    .filter(({ on }) => on)
    .map(({ id, name }) => ({ value: id, label: name })),
)
const mediumChoices = media.map((value) => ({ value, label: mediumNames[value] }))

function add(kind: IncidentKind): void {
  const count = store.show.rehearsal.incidents.length
  // One after the other along the show, so that none hides another.
  const at = seconds.value * (0.3 + ((count * 0.17) % 0.6))
  if (incidents.add(kind, at)) return
  toasts.tell(
    kind === 'device taken'
      ? 'Nothing is known of the computer yet, so nothing of it can be taken.'
      : 'There is no destination that is sent to.',
  )
}
const change = (changes: Partial<Incident>): void => {
  if (chosen.value) incidents.change(chosen.value.id, changes)
}
</script>

<template>
  <section class="card p-3.5" aria-labelledby="whatif-title">
    <h3 id="whatif-title" class="mb-1 text-base">What if</h3>
    <div
      v-if="chosen"
      class="bg-sunk mb-2 flex flex-col gap-2 rounded p-2"
      role="group"
      aria-label="The chosen incident"
    >
      <div class="flex items-center justify-between gap-2">
        <b>{{ usualIncidents[chosen.kind].label }}</b>
        <span class="flex items-center gap-1">
          <OnSwitch
            :model-value="chosen.on"
            :label="`${usualIncidents[chosen.kind].label}: happens`"
            @update:model-value="change({ on: $event })"
          />
          <button
            type="button"
            class="button px-1!"
            aria-label="Remove the incident"
            @click="incidents.remove(chosen.id)"
          >
            <Trash2 class="size-4" />
          </button>
        </span>
      </div>
      <div class="grid grid-cols-2 gap-2">
        <NumberField
          label="After the start"
          unit="s"
          :units="{ ...secondUnits, min: 60 }"
          :least="0"
          :most="seconds"
          :step="10"
          :model-value="chosen.atSeconds"
          @update:model-value="$event !== null && change({ atSeconds: $event })"
        />
        <NumberField
          label="For"
          unit="s"
          :units="{ ...secondUnits, min: 60 }"
          :least="0.1"
          :most="604800"
          :decimals="1"
          :model-value="chosen.durationSeconds"
          @update:model-value="$event !== null && change({ durationSeconds: $event })"
        />
        <NumberField
          v-if="chosen.kind === 'upload dips'"
          label="Upload left"
          unit="%"
          :units="percentUnits"
          :least="0"
          :most="100"
          :model-value="chosen.leftPercent"
          @update:model-value="$event !== null && change({ leftPercent: $event })"
        />
        <NumberField
          v-if="chosen.kind === 'loss burst'"
          label="Packets lost"
          unit="%"
          :units="percentUnits"
          :decimals="1"
          :least="0"
          :most="100"
          :model-value="chosen.lossPercent"
          @update:model-value="$event !== null && change({ lossPercent: $event })"
        />
        <NumberField
          v-if="chosen.kind === 'other traffic' || chosen.kind === 'slow ingest'"
          :label="chosen.kind === 'other traffic' ? 'Takes' : 'Takes no more than'"
          unit="kb/s"
          :units="rateUnits"
          :least="0"
          :most="100000000"
          :step="100"
          :model-value="chosen.kbps"
          @update:model-value="$event !== null && change({ kbps: $event })"
        />
        <SelectField
          v-if="chosen.kind === 'other medium'"
          label="Medium"
          :model-value="chosen.medium"
          :choices="mediumChoices"
          @update:model-value="change({ medium: $event as Medium })"
        />
        <template v-if="chosen.kind === 'device taken'">
          <SelectField
            label="Device"
            :model-value="chosen.deviceId"
            :choices="devices"
            @update:model-value="change({ deviceId: $event })"
          />
          <NumberField
            label="Taken"
            unit="%"
            :units="percentUnits"
            :least="0"
            :most="100"
            :model-value="chosen.takenPercent"
            @update:model-value="$event !== null && change({ takenPercent: $event })"
          />
        </template>
        <SelectField
          v-if="'destinationId' in chosen"
          label="Destination"
          :model-value="chosen.destinationId"
          :choices="destinations"
          @update:model-value="change({ destinationId: $event })"
        />
      </div>
    </div>
    <ul>
      <li v-for="{ kind, label } in kinds" :key="kind">
        <button
          type="button"
          class="hover:bg-leaf flex min-h-7 w-full items-center justify-between gap-2 rounded px-1 text-left"
          :aria-label="`Add: ${label}`"
          :disabled="rehearsal.missing.length > 0"
          @click="add(kind)"
        >
          {{ label }} <Plus class="text-moss size-4" />
        </button>
      </li>
    </ul>
  </section>
</template>
