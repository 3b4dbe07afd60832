<script setup lang="ts">
import {
  type BehindBehaviour,
  behindBehaviours,
  type Destination,
  type Sending,
  sendingLimits,
  usualSending,
} from '@green-mantle/core/show'
import { percentUnits, secondUnits } from '@green-mantle/core/words'
import { computed } from 'vue'
import NumberField from '~/components/fields/NumberField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useShowStore } from '~/stores/show'

/** What the sender of a destination does when the line falls short, and when its connection breaks. */
const props = defineProps<{ destination: Destination }>()
const store = useShowStore()

const behaviourNames = {
  drop: 'drops frames',
  lower: 'lowers its bitrate',
  hold: 'holds, viewers get it later',
} as const satisfies Record<BehindBehaviour, string>
const behaviours = behindBehaviours.map((value) => ({ value, label: behaviourNames[value] }))
const sending = computed(() => props.destination.sending)
const isUsual = computed(() =>
  (Object.keys(usualSending) as (keyof Sending)[]).every(
    (name) => sending.value[name] === usualSending[name],
  ),
)

function set(changes: Partial<Sending>): void {
  store.edit(`Change how ${props.destination.name} is sent`, (draft) => {
    const destination = draft.destinations.find(({ id }) => id === props.destination.id)
    if (destination) Object.assign(destination.sending, changes)
  })
}
type Numbers = Exclude<keyof Sending, 'whenBehind'>
const fields = computed(() => {
  const seconds = { unit: 's', units: secondUnits, decimals: 1 }
  const percent = { unit: '%', units: percentUnits, decimals: 0 }
  const lowering: { name: Numbers; label: string; unit: string }[] =
    sending.value.whenBehind === 'lower'
      ? [
          { name: 'lowerAfterSeconds', label: 'Lowers after', ...seconds },
          { name: 'lowerToPercent', label: 'Each time to', ...percent },
          { name: 'raiseByPercent', label: 'Raises by', ...percent },
          { name: 'leastPercent', label: 'Never below', ...percent },
        ]
      : []
  return [
    ...(sending.value.whenBehind === 'hold'
      ? []
      : [{ name: 'mostWaitSeconds' as const, label: 'Drops after', ...seconds }]),
    ...lowering.map((field) => ({ ...field, ...(field.unit === 's' ? seconds : percent) })),
    { name: 'reconnectAfterSeconds' as const, label: 'Reconnects after', ...seconds },
    { name: 'reconnectTries' as const, label: 'Tries', unit: '', units: {}, decimals: 0 },
  ]
})
</script>

<template>
  <fieldset class="border-rule border-t pt-2">
    <legend class="text-ink-2 float-left mb-1 w-full text-xs font-semibold">
      When the line falls short
    </legend>
    <div class="grid w-full grid-cols-3 gap-2 xl:grid-cols-4">
      <SelectField
        label="Its sender"
        :model-value="sending.whenBehind"
        :choices="behaviours"
        @update:model-value="set({ whenBehind: $event as BehindBehaviour })"
      />
      <NumberField
        v-for="field in fields"
        :key="field.name"
        :label="field.label"
        :unit="field.unit"
        :units="field.units"
        :decimals="field.decimals"
        :least="sendingLimits[field.name].least"
        :most="sendingLimits[field.name].most"
        :model-value="sending[field.name]"
        @update:model-value="$event !== null && set({ [field.name]: $event })"
      />
      <button
        v-if="!isUsual"
        type="button"
        class="button self-end"
        @click="set({ ...usualSending })"
      >
        Usual values
      </button>
    </div>
  </fieldset>
</template>
