import {
  type CanvasName,
  type Layer,
  layersOnAir,
  type Scene,
  type Source,
  verticalSceneOf,
} from '@green-mantle/core/show'
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
  /** In the order in which they were chosen; the last one is the one whose numbers are shown. */
  const layerIds = ref<readonly string[]>([])
  /** The canvas that arrow keys and placing commands act on. */
  const canvas = ref<CanvasName>('landscape')
  const destinationId = ref<string>()
  const renditionId = ref<string>()
  /** Which side of the chosen destination is looked at, counted from 0; it stays while going through them. */
  const destinationSection = ref(0)

  const scene = computed<Scene>(() => {
    const { scenes } = store.show
    return scenes.find(({ id }) => id === sceneId.value) ?? (scenes[0] as Scene)
  })
  const sceneIndex = computed(() => store.show.scenes.indexOf(scene.value))
  /** The scene whose vertical is on air with this one. */
  const verticalScene = computed(() => verticalSceneOf(store.show, scene.value))
  const sharesVertical = computed(() => verticalScene.value !== scene.value)

  const sourcesById = computed(
    () => new Map(store.show.sources.map((source) => [source.id, source])),
  )

  const chosen = computed<SelectedLayer[]>(() =>
    layerIds.value.flatMap((id) => {
      const index = scene.value.layers.findIndex((layer) => layer.id === id)
      const layer = scene.value.layers[index]
      const source = layer && sourcesById.value.get(layer.sourceId)
      return source ? [{ layer, source, index }] : []
    }),
  )
  const selected = computed<SelectedLayer | undefined>(() => chosen.value.at(-1))
  const layerId = computed<string | undefined>({
    get: () => selected.value?.layer.id,
    set: (id) => (layerIds.value = id === undefined ? [] : [id]),
  })

  const destination = computed(() => {
    const { destinations } = store.show
    return destinations.find(({ id }) => id === destinationId.value) ?? destinations[0]
  })

  function chooseScene(id: string): void {
    // The same sources stay chosen where the other scene has them too.
    const sourceIds = chosen.value.map(({ source }) => source.id)
    sceneId.value = id
    layerIds.value = sourceIds.flatMap(
      (sourceId) => scene.value.layers.find((layer) => layer.sourceId === sourceId)?.id ?? [],
    )
  }

  /** Adds a layer to what is chosen, or takes it out again. */
  function toggleChosen(id: string): void {
    layerIds.value = layerIds.value.includes(id)
      ? layerIds.value.filter((chosenId) => chosenId !== id)
      : [...layerIds.value, id]
  }

  const isChosen = (id: string): boolean => layerIds.value.includes(id)
  /** What stands on a canvas while this scene is on air, front to back. */
  const layersOn = (name: CanvasName): Layer[] => layersOnAir(store.show, scene.value, name)

  return {
    sceneId,
    layerId,
    layerIds,
    canvas,
    destinationId,
    renditionId,
    destinationSection,
    scene,
    sceneIndex,
    verticalScene,
    sharesVertical,
    sourcesById,
    chosen,
    selected,
    destination,
    chooseScene,
    toggleChosen,
    isChosen,
    layersOn,
  }
})
