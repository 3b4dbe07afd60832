<script setup lang="ts">
import SelectField from '~/components/fields/SelectField.vue'
import { computed } from 'vue'
import { useNightLogStore } from '~/stores/nightLog'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'

/** Which scene is on air, so that marks know it. */
const show = useShowStore()
const sheet = useRunSheetStore()
const log = useNightLogStore()
const none = '' as const
const choices = computed(() => [
  { value: none as string, label: 'not said' },
  ...show.show.scenes.map(({ id, name }) => ({ value: id, label: name })),
])
function choose(sceneId: string): void {
  const scene = show.show.scenes.find(({ id }) => id === sceneId)
  if (scene) sheet.say({ kind: 'scene', sceneId, name: scene.name })
}
</script>

<template>
  <SelectField
    label="Scene on air"
    :model-value="log.state.sceneId ?? none"
    :choices="choices"
    @update:model-value="choose"
  />
</template>
