import type { CanvasName } from '@green-mantle/core/show'
import { useSelectionStore } from '~/stores/selection'
import { useWorkbenchStore } from '~/stores/workbench'
import { useLayers } from '../editing/layers'
import { usePlacing } from '../editing/placing'

const arrows: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
}

/** What the keyboard does on a canvas that has the focus. */
export function useStageKeys(canvas: CanvasName) {
  const selection = useSelectionStore()
  const workbench = useWorkbenchStore()
  const placing = usePlacing()
  const layers = useLayers()

  function addNeighbour(by: 1 | -1): void {
    const before = selection.layerIds
    layers.chooseNeighbour(by)
    const added = selection.layerId
    selection.layerIds = [...before.filter((id) => id !== added), ...(added ? [added] : [])]
  }

  /** To the chosen source's numbers on this canvas; they stand in two columns. */
  function focusNumbers(): void {
    const fields = document.querySelectorAll<HTMLInputElement>('#place-numbers input')
    fields[canvas === 'landscape' ? 0 : 1]?.focus()
  }

  return function onKey(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return
    const arrow = arrows[event.key]
    const neighbour = { PageDown: 1, PageUp: -1 }[event.key] as 1 | -1 | undefined
    if (arrow) {
      const step = event.shiftKey ? 10 : 1
      placing.nudge(arrow[0] * step, arrow[1] * step)
    } else if (neighbour) {
      if (event.shiftKey) addNeighbour(neighbour)
      else layers.chooseNeighbour(neighbour)
    } else if (event.key === 'Delete') layers.removeChosen()
    else if (event.key === 'Enter') focusNumbers()
    else if (event.key === 'Escape') {
      if (workbench.picksKeyFor) workbench.picksKeyFor = undefined
      else selection.layerId = undefined
    } else return
    event.preventDefault()
  }
}
