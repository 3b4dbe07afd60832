<script setup lang="ts">
import {
  sceneRoles,
  type SceneRole,
  transitionKinds,
  verticalsToShare,
} from '@green-mantle/core/show'
import { Copy, Trash2 } from '@lucide/vue'
import { computed } from 'vue'
import NumberField from '~/components/fields/NumberField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useScenes } from '../editing/scenes'
import SceneOnAir from './SceneOnAir.vue'

const store = useShowStore()
const selection = useSelectionStore()
const scenes = useScenes()

const roleChoices = [
  { value: '', label: 'a scene' },
  ...sceneRoles.map((role) => ({ value: role, label: role })),
]
const verticalChoices = computed(() => [
  { value: '', label: 'its own' },
  ...(selection.sharesVertical
    ? [{ value: selection.verticalScene.id, label: `of ${selection.verticalScene.name}` }]
    : []),
  ...verticalsToShare(store.show, selection.scene)
    .filter(({ id }) => id !== selection.scene.verticalOf)
    .map(({ id, name }) => ({ value: id, label: `of ${name}` })),
])
const transitionChoices = transitionKinds.map((kind) => ({ value: kind, label: kind }))
const millisecondUnits = { ms: 1, s: 1000 }

function setVertical(sceneId: string): void {
  if (sceneId === '') scenes.endSharing('own again')
  else scenes.shareVertical(sceneId)
}
</script>

<template>
  <div class="border-rule mt-3 flex flex-col gap-2 border-t pt-2">
    <TextField
      :model-value="selection.scene.name"
      label="Scene name"
      required
      @update:model-value="scenes.rename($event)"
    />
    <div class="flex gap-1">
      <button
        type="button"
        class="button grow"
        :aria-label="`Duplicate the scene ${selection.scene.name}`"
        title="Duplicate this scene"
        @click="scenes.duplicate()"
      >
        <Copy class="size-4" />
      </button>
      <button
        type="button"
        class="button grow"
        :disabled="store.show.scenes.length === 1"
        :aria-label="`Remove the scene ${selection.scene.name}`"
        title="Remove this scene"
        @click="scenes.remove()"
      >
        <Trash2 class="size-4" />
      </button>
    </div>
    <SelectField
      label="Used as"
      :model-value="selection.scene.role ?? ''"
      :choices="roleChoices"
      @update:model-value="scenes.setRole(($event || null) as SceneRole | null)"
    />
    <SelectField
      label="Vertical canvas"
      :model-value="selection.scene.verticalOf ?? ''"
      :choices="verticalChoices"
      @update:model-value="setVertical"
    />
    <div class="border-rule flex flex-col gap-2 border-t pt-2">
      <SelectField
        label="From scene to scene"
        :model-value="store.show.transition.kind"
        :choices="transitionChoices"
        @update:model-value="scenes.setTransition({ kind: $event })"
      />
      <NumberField
        v-if="store.show.transition.kind === 'fade'"
        label="Fade"
        unit="ms"
        :units="millisecondUnits"
        :step="50"
        :min="0"
        :max="10000"
        :model-value="store.show.transition.milliseconds"
        @update:model-value="scenes.setTransition({ milliseconds: $event })"
      />
      <SceneOnAir />
    </div>
  </div>
</template>
