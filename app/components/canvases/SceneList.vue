<script setup lang="ts">
import { freeName, newScene } from '@green-mantle/core/show'
import { Plus, Trash2 } from '@lucide/vue'
import { refDebounced } from '@vueuse/core'
import { nanoid } from 'nanoid'
import { computed } from 'vue'
import TextField from '~/components/fields/TextField.vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import PairPicture from './PairPicture.vue'

const store = useShowStore()
/** The small pictures follow a drag once it pauses; drawing them at every frame would slow it. */
const pictured = refDebounced(
  computed(() => store.show.scenes),
  200,
)
const picturedScenes = computed(() => new Map(pictured.value.map((scene) => [scene.id, scene])))
const selection = useSelectionStore()

function add(): void {
  const names = store.show.scenes.map(({ name }) => name)
  const scene = newScene(nanoid(12), freeName('Scene', names))
  store.edit(`Add ${scene.name}`, (draft) => {
    draft.scenes.push(scene)
  })
  selection.chooseScene(scene.id)
}

function rename(name: string): void {
  const { id } = selection.scene
  store.edit(`Rename ${selection.scene.name}`, (draft) => {
    const scene = draft.scenes.find((candidate) => candidate.id === id)
    if (scene) scene.name = name
  })
}

function remove(): void {
  const { id, name } = selection.scene
  store.edit(`Remove ${name}`, (draft) => {
    draft.scenes = draft.scenes.filter((scene) => scene.id !== id)
  })
}
</script>

<template>
  <section aria-labelledby="scenes-title" class="border-rule overflow-y-auto border-r p-2.5">
    <h2 id="scenes-title" class="font-text text-ink-2 mb-2 text-xs font-normal">Scenes</h2>
    <ul class="flex flex-col gap-2">
      <li v-for="scene in store.show.scenes" :key="scene.id">
        <button
          type="button"
          class="w-full rounded-lg border p-1.5 text-left"
          :class="scene.id === selection.scene.id ? 'border-moss bg-sheet' : 'border-transparent'"
          :aria-current="scene.id === selection.scene.id"
          @click="selection.chooseScene(scene.id)"
        >
          <PairPicture
            class="h-11"
            :scene="picturedScenes.get(scene.id) ?? scene"
            :sources="selection.sourcesById"
            :canvas-pair="store.show.canvasPair"
          />
          <span
            class="mt-1 block truncate"
            :class="scene.id === selection.scene.id ? 'font-bold' : ''"
            >{{ scene.name }}</span
          >
        </button>
      </li>
    </ul>
    <button type="button" class="button mt-2 w-full" @click="add">
      <Plus class="size-4" /> Scene
    </button>
    <div class="border-rule mt-3 flex items-end gap-1 border-t pt-2">
      <TextField
        class="grow"
        :model-value="selection.scene.name"
        label="Scene name"
        required
        @update:model-value="rename"
      />
      <button
        type="button"
        class="button"
        :disabled="store.show.scenes.length === 1"
        :aria-label="`Remove the scene ${selection.scene.name}`"
        title="Remove this scene"
        @click="remove"
      >
        <Trash2 class="size-4" />
      </button>
    </div>
  </section>
</template>
