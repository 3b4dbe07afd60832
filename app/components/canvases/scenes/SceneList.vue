<script setup lang="ts">
import { layersOnAir, type Scene } from '@green-mantle/core/show'
import { Plus } from '@lucide/vue'
import { shallowRef, watch } from 'vue'
import { VueDraggable } from 'vue-draggable-plus'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useScenes } from '../editing/scenes'
import { useSettled } from '../lookedAt'
import PairPicture from './PairPicture.vue'
import SceneSettings from './SceneSettings.vue'

const store = useShowStore()
const selection = useSelectionStore()
const scenes = useScenes()

/** The small pictures follow a drag once it pauses; drawing them at every frame would slow it. */
const pictured = useSettled(200)
function layersOf(scene: Scene) {
  const { show } = pictured.value
  const drawn = show.scenes.find(({ id }) => id === scene.id) ?? scene
  return { landscape: drawn.layers, vertical: layersOnAir(show, drawn, 'vertical') }
}

/** The list that dragging rearranges; the show follows when the scene is let go. */
const dragged = shallowRef<Scene[]>([])
watch(
  () => store.show.scenes,
  (value) => (dragged.value = [...value]),
  { immediate: true },
)

function drop(event: { oldIndex?: number; newIndex?: number }): void {
  scenes.move(event.oldIndex ?? 0, event.newIndex ?? 0)
  dragged.value = [...store.show.scenes]
}

const nameOfScene = (id: string | null): string =>
  store.show.scenes.find((scene) => scene.id === id)?.name ?? ''
</script>

<template>
  <section aria-labelledby="scenes-title" class="border-rule roomy:border-r overflow-y-auto p-2.5">
    <h2 id="scenes-title" class="font-text text-ink-2 mb-2 text-xs font-normal">Scenes</h2>
    <VueDraggable
      v-model="dragged"
      tag="ul"
      class="roomy:flex-col flex flex-wrap gap-2"
      :animation="120"
      :delay="120"
      @end="drop"
    >
      <li v-for="scene in dragged" :key="scene.id" class="roomy:w-auto w-32">
        <button
          type="button"
          class="w-full rounded-lg border p-1.5 text-left"
          :class="scene.id === selection.scene.id ? 'border-moss bg-sheet' : 'border-transparent'"
          :aria-current="scene.id === selection.scene.id"
          @click="selection.chooseScene(scene.id)"
        >
          <PairPicture
            class="h-11"
            :layers="layersOf(scene)"
            :sources="selection.sourcesById"
            :canvas-pair="store.show.canvasPair"
            :dressing="store.show.dressing"
          />
          <span
            class="mt-1 block truncate"
            :title="scene.name"
            :class="scene.id === selection.scene.id ? 'font-bold' : ''"
            >{{ scene.name }}</span
          >
          <span v-if="scene.role || scene.verticalOf" class="text-ink-2 block truncate text-xs">
            <template v-if="scene.role">{{ scene.role }}</template>
            <template v-if="scene.role && scene.verticalOf"> · </template>
            <span v-if="scene.verticalOf" class="text-foxglove"
              >vertical of {{ nameOfScene(scene.verticalOf) }}</span
            >
          </span>
        </button>
      </li>
    </VueDraggable>
    <button type="button" class="button mt-2 w-full" @click="scenes.add()">
      <Plus class="size-4" /> Scene
    </button>
    <SceneSettings />
  </section>
</template>
