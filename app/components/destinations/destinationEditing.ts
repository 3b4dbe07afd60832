import {
  type CanvasName,
  type Connection,
  copiedDestination,
  type Destination,
  destinationFromProfile,
  freeName,
  movedAmongCanvas,
  newDestination,
  newRendition,
  type Profile,
  type Rendition,
  type Sending,
  type Show,
  withConnection,
  withoutDestination,
  withSendingOf,
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
      draft.destinations = withoutDestination(draft.destinations, id)
    })
  }

  function setConnection({ id, name }: Destination, connection: Connection): void {
    store.edit(`Change the connection of ${name}`, (draft) => withConnection(draft, id, connection))
  }

  function setSending({ id, name }: Destination, changes: Partial<Sending>): void {
    store.edit(`Change how ${name} is sent`, (draft) => withSendingOf(draft, id, changes))
  }

  /** Lets the senders of some destinations wait longer before they drop anything, in one edit. */
  function waitLonger(waits: readonly { destinationId: string; toSeconds: number }[]): void {
    store.edit('Let sends wait longer', (draft) =>
      waits.reduce(
        (show, { destinationId, toSeconds }) =>
          withSendingOf(show, destinationId, { mostWaitSeconds: toSeconds }),
        draft as Show,
      ),
    )
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

  /** Puts destinations made from a profile in, one for each canvas; several in one edit. */
  function addFromProfile(profile: Profile, canvases: readonly CanvasName[]): void {
    const made = canvases.map((canvas) => destinationFromProfile(profile, canvas, makeIdentifier))
    store.edit(`Add ${profile.name}`, (draft) => {
      for (const destination of made) {
        const names = draft.destinations.map(({ name }) => name)
        draft.destinations.push({ ...destination, name: freeName(destination.name, names) })
      }
    })
    selection.destinationId = made[0]?.id
  }

  function copy(destination: Destination): void {
    const made = copiedDestination(store.show.destinations, destination, makeIdentifier)
    store.edit(`Copy ${destination.name}`, (draft) => {
      draft.destinations.splice(
        draft.destinations.findIndex(({ id }) => id === destination.id) + 1,
        0,
        made,
      )
    })
    selection.destinationId = made.id
  }

  function move({ id, name }: Destination, by: -1 | 1): void {
    store.edit(`Move ${name}`, (draft) => {
      draft.destinations = movedAmongCanvas(draft.destinations, id, by)
    })
  }

  return {
    change,
    addFromProfile,
    copy,
    move,
    changeRendition,
    setConnection,
    setSending,
    waitLonger,
    add,
    remove,
    addRendition,
    removeRendition,
  }
}
