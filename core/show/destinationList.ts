import type { Destination } from './destination'
import type { MakeIdentifier } from './identifier'
import { freeName } from './sourcesInScenes'

/** A copy of a destination with parts of its own; its key and its linked account are not copied. */
export function copiedDestination(
  destinations: readonly Destination[],
  destination: Destination,
  makeIdentifier: MakeIdentifier,
): Destination {
  const names = destinations.map(({ name }) => name)
  return {
    ...destination,
    id: makeIdentifier(),
    name: freeName(`${destination.name} copy`.slice(0, 190), names),
    account: null,
    renditions: destination.renditions.map((rendition) => ({ ...rendition, id: makeIdentifier() })),
  }
}

/** The list with one destination a place earlier (−1) or later (1) among those of its canvas. */
export function movedAmongCanvas(
  destinations: readonly Destination[],
  id: string,
  by: -1 | 1,
): Destination[] {
  const moving = destinations.find((destination) => destination.id === id)
  const peers = destinations.filter(({ canvas }) => canvas === moving?.canvas)
  const neighbour = peers[peers.findIndex((peer) => peer.id === id) + by]
  if (!moving || !neighbour) return [...destinations]
  const others = destinations.filter((destination) => destination !== moving)
  others.splice(others.indexOf(neighbour) + (by === 1 ? 1 : 0), 0, moving)
  return others
}

/** The list without one destination; those it fed as a relay are sent to directly again. */
export function withoutDestination(
  destinations: readonly Destination[],
  id: string,
): Destination[] {
  return destinations
    .filter((destination) => destination.id !== id)
    .map((destination) =>
      destination.relayId === id ? { ...destination, relayId: null } : destination,
    )
}
