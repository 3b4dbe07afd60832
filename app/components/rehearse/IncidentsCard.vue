<script setup lang="ts">
import { type Incident, type IncidentKind, media, sentDirectly } from '@green-mantle/core/show'
import { defaultIncidents } from '@green-mantle/core/simulation'
import { mediumNames, percentUnits, rateUnits, secondUnits } from '@green-mantle/core/words'
import { Plus, Trash2 } from '@lucide/vue'
import { computed } from 'vue'
import NumberFields, { type NumberDescription } from '~/components/fields/NumberFields.vue'
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

const kinds = Object.entries(defaultIncidents).map(([kind, { label }]) => ({
  kind: kind as IncidentKind,
  label,
}))
const chosen = computed(() =>
  store.show.rehearsal.incidents.find(({ id }) => id === incidents.chosenId.value),
)
const time = { unit: 's', units: { ...secondUnits, min: 60 } }
const percent = { unit: '%', units: percentUnits, decimals: 0, min: 0, max: 100, step: 1 }
const rate = { unit: 'kb/s', units: rateUnits, decimals: 0, min: 0, max: 1e8, step: 100 }
/** What is typed of the chosen incident, by its kind. */
const numbers = computed((): NumberDescription[] => {
  const it = chosen.value
  if (!it) return []
  const { atSeconds, durationSeconds } = it
  const start = { ...time, decimals: 0, min: 0, max: seconds.value, step: 10 }
  const length = { ...time, decimals: 1, min: 0.1, max: 604_800, step: 1 }
  return [
    { name: 'atSeconds', label: 'After the start', value: atSeconds, ...start },
    { name: 'durationSeconds', label: 'For', value: durationSeconds, ...length },
    ...(it.kind === 'upload dips'
      ? [{ name: 'leftPercent', label: 'Upload left', value: it.leftPercent, ...percent }]
      : []),
    ...(it.kind === 'loss burst'
      ? [{ name: 'lossPercent', label: 'Packets lost', value: it.lossPercent, ...percent }]
      : []),
    ...(it.kind === 'device taken'
      ? [{ name: 'takenPercent', label: 'Taken', value: it.takenPercent, ...percent }]
      : []),
    ...(it.kind === 'other traffic'
      ? [{ name: 'kbps', label: 'Takes', value: it.kbps, ...rate }]
      : []),
    ...(it.kind === 'slow ingest'
      ? [{ name: 'kbps', label: 'Takes no more than', value: it.kbps, ...rate }]
      : []),
  ]
})
const asChoices = (list: readonly { id: string; name: string }[]) =>
  list.map(({ id, name }) => ({ value: id, label: name }))
/** What is chosen of it. */
const choices = computed(() => {
  const it = chosen.value
  if (!it) return []
  const { computer, destinations } = store.show
  if (it.kind === 'other medium')
    return [
      {
        name: 'medium',
        label: 'Medium',
        value: it.medium as string,
        choices: asChoices(media.map((id) => ({ id, name: mediumNames[id] }))),
      },
    ]
  if (it.kind === 'device taken')
    return [
      {
        name: 'deviceId',
        label: 'Device',
        value: it.deviceId,
        choices: asChoices(computer.devices),
      },
    ]
  if (!('destinationId' in it)) return []
  // What a relay feeds is hit through its relay.
  const on = asChoices(sentDirectly(destinations))
  return [{ name: 'destinationId', label: 'Destination', value: it.destinationId, choices: on }]
})

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
        <b>{{ defaultIncidents[chosen.kind].label }}</b>
        <span class="flex items-center gap-1">
          <OnSwitch
            :model-value="chosen.on"
            :label="`${defaultIncidents[chosen.kind].label}: happens`"
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
        <NumberFields :fields="numbers" @change="(name, value) => change({ [name]: value })" />
        <SelectField
          v-for="field in choices"
          :key="field.name"
          :label="field.label"
          :model-value="field.value"
          :choices="field.choices"
          @update:model-value="change({ [field.name]: $event })"
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
