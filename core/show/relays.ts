import type { Destination } from './destination'

/** Whether a destination is part of the show as it stands: on, and not left out by the plan. */
export const isTaken = ({ on, plan }: Pick<Destination, 'on' | 'plan'>): boolean =>
  on && !plan.leftOut

/** The relay through which a destination is reached, where there is one and it is on. */
export function relayOf(
  destinations: readonly Destination[],
  { relayId }: Pick<Destination, 'relayId'>,
): Destination | undefined {
  return destinations.find(({ id, on }) => on && id === relayId)
}

/** The destinations that are taken and that a relay passes its send on to. */
export function fedBy(destinations: readonly Destination[], relay: Destination): Destination[] {
  return destinations.filter((fed) => isTaken(fed) && fed.relayId === relay.id)
}

/**
 * The destinations that are sent to from here: those that are taken and not fed by a relay. A relay
 * is sent to while it feeds somebody.
 */
export function sentDirectly(destinations: readonly Destination[]): Destination[] {
  return destinations.filter(
    (destination) =>
      isTaken(destination) &&
      destination.relayId === null &&
      (destination.connection !== 'relay' || fedBy(destinations, destination).length > 0),
  )
}
