import {
  type Effort,
  freeName,
  newRecording,
  type Pin,
  pinnable,
  type Recording,
  type Rendition,
  type Show,
  withEveryRendition,
  withoutPins,
} from '@green-mantle/core/show'
import { nanoid } from 'nanoid'
import { useShowStore } from '~/stores/show'
import type { FitRow } from './rows'

const makeIdentifier = (): string => nanoid(12)

/** Every rendition of a show, to be changed. */
const renditionsOf = (show: Show): Rendition[] => [
  ...show.destinations.flatMap(({ renditions }) => renditions),
  ...show.recordings.map(({ rendition }) => rendition),
]

/** What can be done to the rows of Fit; every call is one edit of the show. */
export function useFitEditing() {
  const store = useShowStore()

  function change(
    row: FitRow,
    label: string,
    recipe: (rendition: Rendition) => void,
    mergeKey?: string,
  ): void {
    store.edit(
      `${label} ${row.name}`,
      (draft) => {
        const rendition = renditionsOf(draft).find(({ id }) => id === row.rendition.id)
        if (rendition) recipe(rendition)
      },
      mergeKey === undefined ? {} : { mergeKey },
    )
  }

  /** Sets a cell by hand; where the planner works by itself, the cell is pinned with it. */
  function set(row: FitRow, changes: Partial<Rendition>, pin: Pin | null, mergeKey?: string): void {
    change(
      row,
      'Set',
      (rendition) => {
        Object.assign(rendition, changes)
        if (pin && store.show.fit.automatic && !rendition.pins.includes(pin))
          rendition.pins.push(pin)
      },
      mergeKey,
    )
  }

  function togglePin(row: FitRow, pin: Pin): void {
    const isPinned = row.rendition.pins.includes(pin)
    change(row, isPinned ? `Unpin the ${pin} for` : `Pin the ${pin} for`, (rendition) => {
      rendition.pins = pinnable.filter((name) =>
        name === pin ? !isPinned : rendition.pins.includes(name),
      )
    })
  }

  /** Sets the efforts of encodes by hand, in one edit; where the planner works by itself, they are pinned. */
  function setEfforts(changes: readonly { renditionIds: readonly string[]; to: Effort }[]): void {
    store.edit('Set the efforts that keep up', (draft) => {
      for (const rendition of renditionsOf(draft)) {
        const change = changes.find(({ renditionIds }) => renditionIds.includes(rendition.id))
        if (!change) continue
        rendition.effort = change.to
        if (draft.fit.automatic && !rendition.pins.includes('effort')) rendition.pins.push('effort')
      }
    })
  }

  function unpinAll(): void {
    store.edit('Unpin all', (draft) =>
      withEveryRendition(draft, (rendition) => withoutPins(rendition, () => true)),
    )
  }

  function setPlan(
    id: string,
    name: string,
    changes: Partial<Show['destinations'][number]['plan']>,
  ): void {
    store.edit(`Set ${name}`, (draft) => {
      const owner = [...draft.destinations, ...draft.recordings].find((item) => item.id === id)
      if (owner) Object.assign(owner.plan, changes)
    })
  }

  function setRoute(
    id: string,
    label: string,
    recipe: (destination: Show['destinations'][number]) => void,
  ): void {
    store.edit(label, (draft) => {
      const destination = draft.destinations.find((item) => item.id === id)
      if (destination) recipe(destination)
    })
  }

  /** Holds a route: directly, or through a relay. */
  function pinRoute(id: string, name: string, relayId: string | null): void {
    setRoute(id, `Set the route to ${name}`, (destination) => {
      destination.relayId = relayId
      destination.plan.routePinned = true
    })
  }

  function freeRoute(id: string, name: string): void {
    setRoute(id, `Free the route to ${name}`, (destination) => {
      destination.plan.routePinned = false
    })
  }

  function setFit(label: string, changes: Partial<Show['fit']>): void {
    store.edit(label, (draft) => {
      Object.assign(draft.fit, changes)
    })
  }

  function changeRecording(recording: Recording, label: string, changes: Partial<Recording>): void {
    store.edit(`${label} ${recording.name}`, (draft) => {
      const changed = draft.recordings.find(({ id }) => id === recording.id)
      if (changed) Object.assign(changed, changes)
    })
  }

  function addRecording(canvas: Recording['canvas']): void {
    const names = store.show.recordings.map(({ name }) => name)
    const size = store.show.canvasPair[canvas]
    const name = freeName('Recording', names)
    store.edit(`Add ${name}`, (draft) => {
      draft.recordings.push(newRecording(makeIdentifier, name, { canvas, size }))
    })
  }

  function removeRecording({ id, name }: Recording): void {
    store.edit(`Remove ${name}`, (draft) => {
      draft.recordings = draft.recordings.filter((recording) => recording.id !== id)
    })
  }

  return {
    change,
    set,
    togglePin,
    setEfforts,
    unpinAll,
    setPlan,
    pinRoute,
    freeRoute,
    setFit,
    changeRecording,
    addRecording,
    removeRecording,
  }
}
