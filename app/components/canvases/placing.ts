import {
  centred,
  moved,
  scaledTo,
  turnedByQuarter,
  withBox,
  withTrim,
} from '@green-mantle/core/canvas'
import {
  type CanvasName,
  type Layer,
  newSourceWithLayer,
  type NewSourceKind,
  type Placement,
  reorderLayers,
  type Show,
  type Size,
  type Trim,
  unusedSources,
} from '@green-mantle/core/show'
import { nanoid } from 'nanoid'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'

type Box = Partial<Pick<Placement, 'x' | 'y' | 'width' | 'height' | 'turnDegrees'>>
type Change = (placement: Placement, canvas: Size, native: Size) => Placement

/** What can be done to the placements of the scene in hand; every call is one edit of the show. */
export function usePlacing() {
  const store = useShowStore()
  const selection = useSelectionStore()

  function editScene(
    label: string,
    recipe: (scene: Show['scenes'][number], draft: Show) => void,
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

  function editLayer(
    layerId: string,
    label: string,
    recipe: (layer: Layer) => void,
    mergeKey?: string,
  ): void {
    const name = nameOf(layerId)
    editScene(
      `${label} ${name}`,
      (scene) => {
        const layer = scene.layers.find(({ id }) => id === layerId)
        if (layer) recipe(layer)
      },
      mergeKey,
    )
  }

  const nameOf = (layerId: string): string => {
    const layer = selection.scene.layers.find(({ id }) => id === layerId)
    return (layer && selection.sourcesById.get(layer.sourceId)?.name) ?? 'a source'
  }

  function setBox(
    layerId: string,
    canvas: CanvasName,
    box: Box,
    label: string,
    { isDragged = false } = {},
  ): void {
    editLayer(
      layerId,
      label,
      (layer) => {
        layer[canvas] = withBox(layer[canvas], box)
      },
      isDragged ? `box ${layerId} ${canvas}` : undefined,
    )
  }

  /** Changes the chosen placement on the canvas in hand; a locked one stays as it is. */
  function change(
    label: string,
    apply: Change,
    canvas = selection.canvas,
    mergeKey?: string,
  ): void {
    const chosen = selection.selected
    if (!chosen || chosen.layer[canvas].locked) return
    const native = { width: chosen.source.nativeWidth, height: chosen.source.nativeHeight }
    const size = store.show.canvasPair[canvas]
    editLayer(
      chosen.layer.id,
      label,
      (layer) => {
        layer[canvas] = apply(layer[canvas], size, native)
      },
      mergeKey,
    )
  }

  function nudge(acrossPixels: number, downPixels: number): void {
    change(
      'Nudge',
      (placement) => moved(placement, acrossPixels, downPixels),
      selection.canvas,
      `nudge ${selection.layerId} ${selection.canvas}`,
    )
  }

  function setTrim(canvas: CanvasName, trim: Trim): void {
    change('Trim', (placement, _size, native) => withTrim(placement, native, trim), canvas)
  }

  function centre(axis: 'across' | 'down' | 'both'): void {
    change('Centre', (placement, size) => centred(placement, size, axis))
  }

  function scale(how: 'fit' | 'fill'): void {
    change(how === 'fit' ? 'Fit' : 'Fill with', (placement, size, native) =>
      scaledTo(placement, native, size, how),
    )
  }

  function flip(axis: 'across' | 'down'): void {
    const key = axis === 'across' ? 'flippedAcross' : 'flippedDown'
    change('Flip', (placement) => ({ ...placement, [key]: !placement[key] }))
  }

  const turn = (): void => change('Turn', turnedByQuarter)

  function toggleShown(layerId: string, canvas: CanvasName): void {
    editLayer(layerId, 'Show or hide', (layer) => {
      layer[canvas].shown = !layer[canvas].shown
    })
  }

  /** One lock for both canvases. */
  function toggleLocked(layerId: string): void {
    editLayer(layerId, 'Lock or unlock', (layer) => {
      const locked = !(layer.landscape.locked && layer.vertical.locked)
      layer.landscape.locked = locked
      layer.vertical.locked = locked
    })
  }

  /** Moves a layer to another place, counted from the front. */
  function reorder(from: number, to: number): void {
    const layer = selection.scene.layers[from]
    if (!layer || from === to) return
    editScene(`Reorder ${nameOf(layer.id)}`, (scene) => {
      scene.layers = reorderLayers(scene, from, to)
    })
  }

  function moveChosenInOrder(by: 1 | -1): void {
    const index = selection.selected?.index
    if (index !== undefined && selection.scene.layers[index + by]) reorder(index, index + by)
  }

  function chooseNeighbour(by: 1 | -1): void {
    const { layers } = selection.scene
    const index = selection.selected?.index ?? (by === 1 ? -1 : layers.length)
    selection.layerId = layers[(index + by + layers.length) % layers.length]?.id
  }

  function addSource(kind: NewSourceKind): void {
    const { source, layer } = newSourceWithLayer(store.show, kind, () => nanoid(12))
    editScene(`Add ${source.name}`, (scene, draft) => {
      draft.sources.push(source)
      scene.layers.unshift(layer)
    })
    selection.layerId = layer.id
  }

  /** Takes the chosen source out of this scene; one that no scene uses any more goes altogether. */
  function removeChosen(): void {
    const chosen = selection.selected
    if (!chosen) return
    editScene(`Remove ${chosen.source.name}`, (scene, draft) => {
      scene.layers = scene.layers.filter(({ id }) => id !== chosen.layer.id)
      const unused = new Set(unusedSources(draft).map(({ id }) => id))
      draft.sources = draft.sources.filter(({ id }) => !unused.has(id))
    })
  }

  return {
    setBox,
    setTrim,
    nudge,
    centre,
    scale,
    flip,
    turn,
    toggleShown,
    toggleLocked,
    reorder,
    moveChosenInOrder,
    chooseNeighbour,
    addSource,
    removeChosen,
  }
}
