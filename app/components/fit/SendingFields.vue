<script setup lang="ts">
import {
  type BehindBehaviour,
  behindBehaviours,
  type Destination,
  type Sending,
  sendingLimits,
  defaultSending,
} from '@green-mantle/core/show'
import { percentUnits, secondUnits } from '@green-mantle/core/words'
import { computed } from 'vue'
import NumberFields, { type NumberDescription } from '~/components/fields/NumberFields.vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useDestinationEditing } from '~/components/destinations/destinationEditing'

/** What the sender of a destination does when the line falls short, and when its connection breaks. */
const props = defineProps<{ destination: Destination }>()
const editing = useDestinationEditing()

const behaviourNames = {
  drop: 'drops frames',
  lower: 'lowers its bitrate',
  hold: 'holds, viewers get it later',
} as const satisfies Record<BehindBehaviour, string>
const behaviours = behindBehaviours.map((value) => ({ value, label: behaviourNames[value] }))
const sending = computed(() => props.destination.sending)
const isUsual = computed(() =>
  (Object.keys(defaultSending) as (keyof Sending)[]).every(
    (name) => sending.value[name] === defaultSending[name],
  ),
)

const set = (changes: Partial<Sending>): void => editing.setSending(props.destination, changes)
type Numbers = Exclude<keyof Sending, 'whenBehind'>
const seconds = { unit: 's', units: secondUnits, decimals: 1 }
const percent = { unit: '%', units: percentUnits }
const descriptions: Record<Numbers, Pick<NumberDescription, 'label' | 'unit' | 'units'>> = {
  mostWaitSeconds: { label: 'Drops after', ...seconds },
  lowerAfterSeconds: { label: 'Lowers after', ...seconds },
  lowerToPercent: { label: 'Each time to', ...percent },
  raiseByPercent: { label: 'Raises by', ...percent },
  leastPercent: { label: 'Never below', ...percent },
  reconnectAfterSeconds: { label: 'Reconnects after', ...seconds },
  reconnectTries: { label: 'Tries' },
}
const lowering = ['lowerAfterSeconds', 'lowerToPercent', 'raiseByPercent', 'leastPercent'] as const
/** Those that its behaviour has a use for. */
const fields = computed(() => {
  const { whenBehind } = sending.value
  const names: Numbers[] = [
    ...(whenBehind === 'hold' ? [] : (['mostWaitSeconds'] as const)),
    ...(whenBehind === 'lower' ? lowering : []),
    ...(['reconnectAfterSeconds', 'reconnectTries'] as const),
  ]
  return names.map((name) => ({
    name,
    ...descriptions[name],
    ...sendingLimits[name],
    value: sending.value[name],
  }))
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
      <NumberFields :fields="fields" @change="(name, value) => set({ [name]: value })" />
      <button
        v-if="!isUsual"
        type="button"
        class="button self-end"
        @click="set({ ...defaultSending })"
      >
        Usual values
      </button>
    </div>
  </fieldset>
</template>
