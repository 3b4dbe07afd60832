import { canvasToSource } from '@green-mantle/core/canvas'
import { type CanvasName, nativeSizeOf } from '@green-mantle/core/show'
import { colourAt } from '~/pictures/colourAt'
import { useSelectionStore } from '~/stores/selection'
import { useWorkbenchStore } from '~/stores/workbench'
import { useSources } from '../editing/sources'

/** Picks the colour that is keyed out from a point of the canvas, where that was asked for; else false. */
export function useKeyColour(canvas: CanvasName) {
  const selection = useSelectionStore()
  const workbench = useWorkbenchStore()
  const sources = useSources()

  return function pickAt(point: { x: number; y: number }): boolean {
    const chosen = selection.selected
    if (!chosen || workbench.picksKeyFor !== chosen.source.id) return false
    workbench.picksKeyFor = undefined
    const pixel = canvasToSource(chosen.layer[canvas], nativeSizeOf(chosen.source), point)
    const picked = colourAt(chosen.source, pixel)
    if (picked)
      sources.edit(chosen.source.id, 'Pick the key colour of', (source) => {
        if (source.chromaKey) source.chromaKey.colour = picked
      })
    return true
  }
}
