<script setup lang="ts">
import {
  type Transition,
  transitionKinds,
  transitionTo,
  type WithoutDevice,
} from '@green-mantle/core/show'
import { computed } from 'vue'
import NumberField from '~/components/fields/NumberField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useScenes } from '../editing/scenes'

/** How the chosen scene comes on air, and what stands in it for a device that is gone. */
const store = useShowStore()
const selection = useSelectionStore()
const scenes = useScenes()

const own = computed(() => selection.scene.comesBy)
const comesByChoices = computed(() => [
  { value: '' as const, label: `as all do: ${store.show.transition.kind}` },
  ...transitionKinds.map((kind) => ({ value: kind, label: kind })),
])
const withoutDeviceChoices: { value: WithoutDevice; label: string }[] = [
  { value: 'card', label: 'a plain card' },
  { value: 'hidden', label: 'nothing, it is hidden' },
]
const millisecondUnits = { ms: 1, s: 1000 }

function setKind(kind: Transition['kind'] | ''): void {
  const { milliseconds } = transitionTo(store.show, selection.scene)
  scenes.setComesBy(kind === '' ? null : { kind, milliseconds })
}
</script>

<template>
  <SelectField
    label="This scene comes by"
    :model-value="own?.kind ?? ''"
    :choices="comesByChoices"
    @update:model-value="setKind"
  />
  <NumberField
    v-if="own?.kind === 'fade'"
    label="Its fade"
    unit="ms"
    :units="millisecondUnits"
    :step="50"
    :min="0"
    :max="10000"
    :model-value="own.milliseconds"
    @update:model-value="scenes.setComesBy({ kind: 'fade', milliseconds: $event })"
  />
  <SelectField
    label="For a device that is gone"
    :model-value="selection.scene.withoutDevice ?? 'card'"
    :choices="withoutDeviceChoices"
    @update:model-value="scenes.setWithoutDevice"
  />
</template>
