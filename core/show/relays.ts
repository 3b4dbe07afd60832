import type { Destination } from './destination'

/** The relay through which a destination is reached, where there is one and it is on. */
export function relayOf(
  destinations: readonly Destination[],
  { relayId }: Pick<Destination, 'relayId'>,
): Destination | undefined {
  return destinations.find(({ id, on }) => on && id === relayId)
}

/** The destinations that are on and that a relay passes its send on to. */
export function fedBy(destinations: readonly Destination[], relay: Destination): Destination[] {
  return destinations.filter(({ on, relayId }) => on && relayId === relay.id)
}

/** The destinations that are sent to from here: those that are on and not fed by a relay. */
export function sentDirectly(destinations: readonly Destination[]): Destination[] {
  return destinations.filter(({ on, relayId }) => on && relayId === null)
}
