import { hiddenBy, moved, sameAs } from '@green-mantle/core/canvas'
import {
  type CanvasName,
  type Layer,
  newLayer,
  type Placement,
  reordered,
  type Size,
  unusedSources,
  otherCanvas,
  removeSounds,
} from '@green-mantle/core/show'
import { nanoid } from 'nanoid'
import { shallowRef } from 'vue'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useToastStore } from '~/stores/toasts'
import { useSceneEdits } from './sceneEdits'

interface Copied {
  showId: string
  sceneId: string
  canvas: CanvasName
  canvasSize: Size
  items: { sourceId: string; placement: Placement }[]
}

/** Kept for this tab, so that what is copied can be pasted into another scene. */
const copied = shallowRef<Copied>()
const makeIdentifier = (): string => nanoid(12)
/** A copy stands beside its original, in canvas pixels. */
const copyOffset = 20

/** What can be done to the front-to-back list of the scene in hand. */
export function useLayers() {
  const store = useShowStore()
  const selection = useSelectionStore()
  const toasts = useToastStore()
  const { canAlter, editScene, editLayers, nameOf } = useSceneEdits()

  function setShown(layerIds: readonly string[], canvas: CanvasName, shown: boolean): void {
    if (!canAlter(canvas)) return
    editLayers(layerIds, shown ? 'Show' : 'Hide', (layer) => {
      layer[canvas].shown = shown
    })
  }

  function toggleShown(layerId: string, canvas: CanvasName): void {
    const layer = selection.scene.layers.find(({ id }) => id === layerId)
    if (layer) setShown([layerId], canvas, !layer[canvas].shown)
  }

  function toggleChosenShown(canvas: CanvasName): void {
    const shown = selection.chosen.every(({ layer }) => layer[canvas].shown)
    setShown(selection.layerIds, canvas, !shown)
  }

  /** One lock for both canvases. */
  function setLocked(layerIds: readonly string[], locked: boolean): void {
    editLayers(layerIds, locked ? 'Lock' : 'Unlock', (layer) => {
      layer.landscape.locked = locked
      layer.vertical.locked = locked
    })
  }

  const isLocked = ({ landscape, vertical }: Layer): boolean => landscape.locked && vertical.locked

  function toggleLocked(layerId: string): void {
    const layer = selection.scene.layers.find(({ id }) => id === layerId)
    if (layer) setLocked([layerId], !isLocked(layer))
  }

  function toggleChosenLocked(): void {
    setLocked(selection.layerIds, !selection.chosen.every(({ layer }) => isLocked(layer)))
  }

  /** Moves a layer to another place, counted from the front. */
  function reorder(from: number, to: number): void {
    const layer = selection.scene.layers[from]
    if (!layer || from === to) return
    editScene(`Reorder ${nameOf(layer.id)}`, (scene) => {
      scene.layers = reordered(scene.layers, from, to)
    })
  }

  function moveChosenInOrder(by: 1 | -1): void {
    const index = selection.selected?.index
    if (index !== undefined && selection.scene.layers[index + by]) reorder(index, index + by)
  }

  function moveChosenTo(end: 'front' | 'back'): void {
    const index = selection.selected?.index
    if (index !== undefined) reorder(index, end === 'front' ? 0 : selection.scene.layers.length - 1)
  }

  /** Moves what is hidden before the frontmost of those that hide it; the order holds on both canvases. */
  function putInFrontOfHiders(layerId: string, canvas: CanvasName): void {
    const { layers } = selection.scene
    const onAir = canvas === 'vertical' ? selection.verticalScene.layers : layers
    const size = store.show.canvasPair[canvas]
    const [first] = hiddenBy(onAir, layerId, canvas, size, selection.sourcesById)
    const place = (id: string | undefined): number => layers.findIndex((layer) => layer.id === id)
    if (first) reorder(place(layerId), place(first.id))
  }

  function chooseNeighbour(by: 1 | -1): void {
    const { layers } = selection.scene
    const index = selection.selected?.index ?? (by === 1 ? -1 : layers.length)
    selection.layerId = layers[(index + by + layers.length) % layers.length]?.id
  }

  function chooseAll(): void {
    selection.layerIds = selection.scene.layers
      .filter((layer) => layer[selection.canvas].shown)
      .map(({ id }) => id)
      .toReversed()
  }

  /** Takes the chosen out of this scene; a source that no scene uses any more goes altogether. */
  function removeChosen(): void {
    const ids = selection.chosen.map(({ layer }) => layer.id)
    if (ids.length === 0) return
    const what = ids.length === 1 ? nameOf(ids[0] as string) : `${ids.length} sources`
    editScene(`Remove ${what}`, (scene, draft) => {
      scene.layers = scene.layers.filter(({ id }) => !ids.includes(id))
      const unused = new Set(unusedSources(draft).map(({ id }) => id))
      draft.sources = draft.sources.filter(({ id }) => !unused.has(id))
      removeSounds(draft, ({ sourceId }) => sourceId !== null && unused.has(sourceId))
    })
  }

  /** A second placement of the same sources, in front of the first and beside it. */
  function duplicateChosen(): void {
    const copies = selection.chosen.map(({ layer }) => ({
      ...layer,
      id: makeIdentifier(),
      landscape: moved({ ...layer.landscape, locked: false }, copyOffset, copyOffset),
      vertical: moved({ ...layer.vertical, locked: false }, copyOffset, copyOffset),
    }))
    putInFront(copies, 'Duplicate')
  }

  function putInFront(layers: readonly Layer[], label: string): void {
    if (layers.length === 0) return
    editScene(
      `${label} ${layers.length === 1 ? 'a source' : `${layers.length} sources`}`,
      (scene) => {
        scene.layers.unshift(...layers)
      },
    )
    selection.layerIds = layers.map(({ id }) => id)
  }

  function copyChosen(): void {
    const { canvas, scene } = selection
    // Front to back, whatever the order of choosing.
    const items = [...selection.chosen]
      .sort((a, b) => a.index - b.index)
      .map(({ layer }) => ({ sourceId: layer.sourceId, placement: layer[canvas] }))
    if (items.length === 0) return
    copied.value = {
      showId: store.id,
      sceneId: scene.id,
      canvas,
      canvasSize: store.show.canvasPair[canvas],
      items,
    }
    toasts.tell(`${items.length === 1 ? 'One placement' : `${items.length} placements`} copied.`)
  }

  const canPaste = (): boolean => copied.value?.showId === store.id

  /**
   * Puts what was copied on the canvas in hand: where the scene has the source and does not show it
   * there, it is shown as copied; else it is placed once more.
   */
  function paste(): void {
    const from = copied.value
    if (!from || !canPaste() || !canAlter(selection.canvas)) return
    const { canvas } = selection
    const size = store.show.canvasPair[canvas]
    const isSamePlace = from.canvas === canvas && from.sceneId === selection.scene.id
    const pasted: string[] = []
    editScene(`Paste on ${canvas}`, (scene, draft) => {
      for (const { sourceId, placement } of from.items.toReversed()) {
        const source = draft.sources.find(({ id }) => id === sourceId)
        if (!source) continue
        const onHere = { ...placement, locked: false, shown: true }
        const wanted =
          from.canvas === canvas ? onHere : sameAs(onHere, onHere, size, from.canvasSize)
        const waiting = scene.layers.find(
          (layer) => layer.sourceId === sourceId && !layer[canvas].shown,
        )
        if (waiting) waiting[canvas] = wanted
        else
          scene.layers.unshift({
            ...newLayer(draft, source, makeIdentifier, []),
            [canvas]: isSamePlace ? moved(wanted, copyOffset, copyOffset) : wanted,
          })
        pasted.push((waiting ?? (scene.layers[0] as Layer)).id)
      }
    })
    selection.layerIds = pasted
  }

  /** What is chosen, from the canvas in hand to the other in one go. */
  function copyToOtherCanvas(): void {
    copyChosen()
    selection.canvas = otherCanvas[selection.canvas]
    paste()
  }

  return {
    toggleShown,
    toggleChosenShown,
    toggleLocked,
    toggleChosenLocked,
    isLocked,
    reorder,
    moveChosenInOrder,
    moveChosenTo,
    putInFrontOfHiders,
    chooseNeighbour,
    chooseAll,
    removeChosen,
    duplicateChosen,
    copyChosen,
    copyToOtherCanvas,
    canPaste,
    paste,
  }
}
