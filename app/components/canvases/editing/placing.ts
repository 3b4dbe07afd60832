import {
  aligned,
  type Alignment,
  centred,
  clearPlacement,
  distributed,
  equallySized,
  inProportion,
  moved,
  sameAs,
  scaledTo,
  stretched,
  turnedByQuarter,
  withBox,
  withTrim,
} from '@green-mantle/core/canvas'
import {
  type CanvasName,
  nativeSizeOf,
  type Placement,
  type Size,
  type Trim,
  otherCanvas,
} from '@green-mantle/core/show'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import { useToastStore } from '~/stores/toasts'
import { useSceneEdits } from './sceneEdits'

type BoxField = 'x' | 'y' | 'width' | 'height' | 'turnDegrees'
type Change = (placement: Placement, canvas: Size, native: Size) => Placement
/** Placements by layer, as a drag leaves them. */
export type Placements = ReadonlyMap<string, Placement>

/** What can be done to how the chosen sources stand on a canvas; a locked one stays as it is. */
export function usePlacing() {
  const store = useShowStore()
  const selection = useSelectionStore()
  const toasts = useToastStore()
  const { canAlter, editLayers } = useSceneEdits()

  /** The chosen layers that may be altered on a canvas. A vertical shared from another scene is altered there. */
  function free(canvas: CanvasName) {
    if (canvas === 'vertical' && selection.sharesVertical) return []
    return selection.chosen.filter(({ layer }) => !layer[canvas].locked)
  }

  function change(
    label: string,
    apply: Change,
    canvas: CanvasName = selection.canvas,
    mergeKey?: string,
  ): void {
    const size = store.show.canvasPair[canvas]
    editLayers(
      free(canvas).map(({ layer }) => layer.id),
      label,
      (layer) => {
        const source = selection.sourcesById.get(layer.sourceId)
        if (source) layer[canvas] = apply(layer[canvas], size, nativeSizeOf(source))
      },
      mergeKey,
    )
  }

  /** Changes several placements with regard to each other. */
  function changeTogether(
    label: string,
    apply: (placements: Placement[], canvas: Size) => Placement[],
  ): void {
    const { canvas } = selection
    const layers = free(canvas).map(({ layer }) => layer)
    const next = apply(
      layers.map((layer) => layer[canvas]),
      store.show.canvasPair[canvas],
    )
    place(canvas, new Map(layers.map(({ id }, index) => [id, next[index] as Placement])), label)
  }

  /** Gives layers the placements that a hand or a sum has found for them. */
  function place(
    canvas: CanvasName,
    placements: Placements,
    label: string,
    { isDragged = false } = {},
  ): void {
    if (!canAlter(canvas)) return
    const ids = [...placements.keys()]
    editLayers(
      ids,
      label,
      (layer) => {
        layer[canvas] = placements.get(layer.id) as Placement
      },
      isDragged ? `${label} ${canvas} ${ids.join(' ')}` : undefined,
    )
  }

  /** The same on one canvas or both at once, as one step of undo. */
  function placeOn(onCanvases: ReadonlyMap<CanvasName, Placements>, label: string): void {
    const canvases = [...onCanvases.keys()].filter(canAlter)
    const ids = new Set(canvases.flatMap((canvas) => [...(onCanvases.get(canvas)?.keys() ?? [])]))
    editLayers([...ids], label, (layer) => {
      for (const canvas of canvases)
        layer[canvas] = onCanvases.get(canvas)?.get(layer.id) ?? layer[canvas]
    })
  }

  function setBox(canvas: CanvasName, field: BoxField, value: number): void {
    change('Place', (placement) => withBox(placement, { [field]: value }), canvas)
  }

  function nudge(acrossPixels: number, downPixels: number): void {
    change(
      'Nudge',
      (placement) => moved(placement, acrossPixels, downPixels),
      selection.canvas,
      `nudge ${selection.layerIds.join(' ')} ${selection.canvas}`,
    )
  }

  /** Sets one edge's trim of all chosen, each in its own pixels. */
  function setTrim(canvas: CanvasName, edge: keyof Trim, value: number): void {
    change(
      'Trim',
      (placement, _size, native) =>
        withTrim(placement, native, { ...placement.trim, [edge]: value }),
      canvas,
    )
  }

  const centre = (axis: 'across' | 'down' | 'both'): void =>
    change('Centre', (placement, size) => centred(placement, size, axis))

  const scale = (how: 'fit' | 'fill'): void =>
    change(how === 'fit' ? 'Fit' : 'Fill with', (placement, size, native) =>
      scaledTo(placement, native, size, how),
    )

  function flip(axis: 'across' | 'down'): void {
    const key = axis === 'across' ? 'flippedAcross' : 'flippedDown'
    change('Flip', (placement) => ({ ...placement, [key]: !placement[key] }))
  }

  const turn = (): void => change('Turn', turnedByQuarter)
  const stretch = (): void => change('Stretch', stretched)
  const restoreProportion = (): void =>
    change('Restore the proportions of', (placement, _size, native) =>
      inProportion(placement, native),
    )

  function setOpacity(canvas: CanvasName, opacityPercent: number): void {
    change('Set the opacity of', (placement) => ({ ...placement, opacityPercent }), canvas)
  }

  function setCornerRadius(canvas: CanvasName, cornerRadius: number | null): void {
    change('Round the corners of', (placement) => ({ ...placement, cornerRadius }), canvas)
  }

  function setDressed(canvas: CanvasName, dressed: boolean): void {
    change(dressed ? 'Dress' : 'Undress', (placement) => ({ ...placement, dressed }), canvas)
  }

  const align = (how: Alignment): void =>
    changeTogether('Align', (placements, size) => aligned(placements, how, size))
  const distribute = (axis: 'across' | 'down'): void =>
    changeTogether('Distribute', (placements) => distributed(placements, axis))

  /** All get the size of the one chosen last, whose numbers are shown. */
  const equalSize = (): void =>
    changeTogether('Make equal', (placements) => equallySized(placements.toReversed()).toReversed())

  /** Stands the chosen on this canvas as they stand on the other. */
  function sameAsOther(): void {
    const { canvas } = selection
    const { canvasPair } = store.show
    const other = otherCanvas[canvas]
    editLayers(
      free(canvas).map(({ layer }) => layer.id),
      `Place as on ${other}:`,
      (layer) => {
        layer[canvas] = sameAs(layer[canvas], layer[other], canvasPair[canvas], canvasPair[other])
      },
    )
  }

  /** Moves a layer to the nearest place where no viewing app covers it. */
  function moveClear(layerId: string, canvas: CanvasName): void {
    const next = clearPlacement(store.show, selection.scene, layerId, canvas)
    if (next) place(canvas, new Map([[layerId, next]]), 'Move clear')
    else
      toasts.tell(
        'There is no free place of this size on the canvas. Make it smaller, or move something else away.',
      )
  }

  function bringBack(layerId: string, canvas: CanvasName): void {
    const layer = selection.scene.layers.find(({ id }) => id === layerId)
    if (!layer) return
    const next = centred(layer[canvas], store.show.canvasPair[canvas], 'both')
    place(canvas, new Map([[layerId, next]]), 'Bring back')
  }

  return {
    free,
    place,
    placeOn,
    setBox,
    setTrim,
    nudge,
    centre,
    scale,
    stretch,
    restoreProportion,
    flip,
    turn,
    setOpacity,
    setCornerRadius,
    setDressed,
    align,
    distribute,
    equalSize,
    sameAsOther,
    moveClear,
    bringBack,
  }
}
