import type { CanvasName, Layer, Scene, Source } from '@green-mantle/core/show'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { useShowStore } from './show'

export interface SelectedLayer {
  layer: Layer
  source: Source
  /** Counted from the front. */
  index: number
}

/** What is chosen in the workbench. It is no part of the show, and undo does not touch it. */
export const useSelectionStore = defineStore('selection', () => {
  const store = useShowStore()
  const sceneId = ref<string>()
  const layerId = ref<string>()
  /** The canvas that arrow keys and placing commands act on. */
  const canvas = ref<CanvasName>('landscape')
  const destinationId = ref<string>()
  const renditionId = ref<string>()

  const scene = computed<Scene>(() => {
    const { scenes } = store.show
    return scenes.find(({ id }) => id === sceneId.value) ?? (scenes[0] as Scene)
  })
  const sceneIndex = computed(() => store.show.scenes.indexOf(scene.value))

  const sourcesById = computed(
    () => new Map(store.show.sources.map((source) => [source.id, source])),
  )

  const selected = computed<SelectedLayer | undefined>(() => {
    const index = scene.value.layers.findIndex(({ id }) => id === layerId.value)
    const layer = scene.value.layers[index]
    const source = layer && sourcesById.value.get(layer.sourceId)
    return source && { layer, source, index }
  })

  const destination = computed(() => {
    const { destinations } = store.show
    return destinations.find(({ id }) => id === destinationId.value) ?? destinations[0]
  })

  function chooseScene(id: string): void {
    // The same source stays chosen where the other scene has it too.
    const sourceId = selected.value?.layer.sourceId
    sceneId.value = id
    layerId.value = scene.value.layers.find((layer) => layer.sourceId === sourceId)?.id
  }

  return {
    sceneId,
    layerId,
    canvas,
    destinationId,
    renditionId,
    scene,
    sceneIndex,
    sourcesById,
    selected,
    destination,
    chooseScene,
  }
})
