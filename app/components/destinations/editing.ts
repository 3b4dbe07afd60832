import {
  type CanvasName,
  type Destination,
  freeName,
  newDestination,
  newRendition,
  type Rendition,
} from '@green-mantle/core/show'
import { nanoid } from 'nanoid'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'

const makeIdentifier = (): string => nanoid(12)

/** What can be done to destinations; every call is one edit of the show. */
export function useDestinationEditing() {
  const store = useShowStore()
  const selection = useSelectionStore()

  function change(
    id: string,
    label: string,
    recipe: (destination: Destination) => void,
    mergeKey?: string,
  ): void {
    const name = store.show.destinations.find((destination) => destination.id === id)?.name
    store.edit(
      `${label} ${name}`,
      (draft) => {
        const destination = draft.destinations.find((candidate) => candidate.id === id)
        if (destination) recipe(destination)
      },
      mergeKey === undefined ? {} : { mergeKey },
    )
  }

  function changeRendition(
    destinationId: string,
    renditionId: string,
    label: string,
    changes: Partial<Rendition>,
    mergeKey?: string,
  ): void {
    change(
      destinationId,
      label,
      ({ renditions }) => {
        const rendition = renditions.find(({ id }) => id === renditionId)
        if (rendition) Object.assign(rendition, changes)
      },
      mergeKey,
    )
  }

  function add(canvas: CanvasName): void {
    const names = store.show.destinations.map(({ name }) => name)
    const destination = newDestination(makeIdentifier, freeName('Destination', names), canvas)
    store.edit(`Add ${destination.name}`, (draft) => {
      draft.destinations.push(destination)
    })
    selection.destinationId = destination.id
  }

  function remove(id: string): void {
    const name = store.show.destinations.find((destination) => destination.id === id)?.name
    store.edit(`Remove ${name}`, (draft) => {
      draft.destinations = draft.destinations.filter((destination) => destination.id !== id)
    })
  }

  /** A further step of a ladder, to begin with like the last. */
  function addRendition(destination: Destination): void {
    const id = makeIdentifier()
    change(destination.id, 'Add a rendition to', ({ renditions, canvas }) => {
      renditions.push({ ...(renditions.at(-1) ?? newRendition(id, canvas)), id })
    })
    selection.renditionId = id
  }

  function removeRendition(destination: Destination, renditionId: string): void {
    change(destination.id, 'Remove a rendition from', (changed) => {
      changed.renditions = changed.renditions.filter(({ id }) => id !== renditionId)
    })
  }

  return { change, changeRendition, add, remove, addRendition, removeRendition }
}
