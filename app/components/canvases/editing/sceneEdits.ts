import type { CanvasName, Layer, Scene, Show } from '@green-mantle/core/show'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useToastStore } from '~/stores/toasts'

/** "Move Bench camera", "Move 3 sources". */
function labelFor(label: string, names: readonly string[]): string {
  return `${label} ${names.length === 1 ? names[0] : `${names.length} sources`}`
}

/** Edits of the scene in hand; every call is one edit of the show. */
export function useSceneEdits() {
  const store = useShowStore()
  const selection = useSelectionStore()
  const toasts = useToastStore()

  /** Whether a canvas of this scene can be altered here; says why where it cannot. */
  function canAlter(canvas: CanvasName): boolean {
    if (canvas === 'landscape' || !selection.sharesVertical) return true
    toasts.tell(
      `This scene uses the vertical of ${selection.verticalScene.name}. Alter it there, or keep a copy of it here.`,
    )
    return false
  }

  function editScene(
    label: string,
    recipe: (scene: Scene, draft: Show) => void,
    mergeKey?: string,
  ): void {
    const sceneId = selection.scene.id
    store.edit(
      label,
      (draft) => {
        const scene = draft.scenes.find(({ id }) => id === sceneId)
        if (scene) recipe(scene, draft)
      },
      mergeKey === undefined ? {} : { mergeKey },
    )
  }

  function nameOf(layerId: string): string {
    const layer = selection.scene.layers.find(({ id }) => id === layerId)
    return (layer && selection.sourcesById.get(layer.sourceId)?.name) ?? 'a source'
  }

  function editLayers(
    layerIds: readonly string[],
    label: string,
    recipe: (layer: Layer) => void,
    mergeKey?: string,
  ): void {
    if (layerIds.length === 0) return
    editScene(
      labelFor(label, layerIds.map(nameOf)),
      (scene) => {
        for (const layer of scene.layers) if (layerIds.includes(layer.id)) recipe(layer)
      },
      mergeKey,
    )
  }

  return { canAlter, editScene, editLayers, nameOf }
}
