import type { Destination } from '../destination'
import type { Pin } from '../plan'
import type { Rendition } from '../rendition'
import type { Show } from '../show'
import { changedById } from './changedById'

type WithDestinations = Pick<Show, 'destinations'>

/** A show with one destination changed. */
export const withDestination = <Shown extends WithDestinations>(
  show: Shown,
  id: string,
  change: (destination: Destination) => Destination,
): Shown => ({ ...show, destinations: changedById(show.destinations, id, change) })

/** A show that is not sent to one of its destinations; what was set for it stays. */
export const withDestinationOff = <Shown extends WithDestinations>(
  show: Shown,
  id: string,
): Shown => withDestination(show, id, (destination) => ({ ...destination, on: false }))

/** A show with other wishes for the plan of one destination. */
export const withPlanOf = <Shown extends WithDestinations>(
  show: Shown,
  id: string,
  changes: Partial<Destination['plan']>,
): Shown =>
  withDestination(show, id, (destination) => ({
    ...destination,
    plan: { ...destination.plan, ...changes },
  }))

/** A show that is sent to one destination in another way: its wait, its tries, what it does when behind. */
export const withSendingOf = <Shown extends WithDestinations>(
  show: Shown,
  id: string,
  changes: Partial<Destination['sending']>,
): Shown =>
  withDestination(show, id, (destination) => ({
    ...destination,
    sending: { ...destination.sending, ...changes },
  }))

/** A show with the renditions of one destination changed; `step` counts down the ladder from 0. */
export const withRenditionsOf = <Shown extends WithDestinations>(
  show: Shown,
  id: string,
  change: (rendition: Rendition, step: number) => Rendition,
): Shown =>
  withDestination(show, id, (destination) => ({
    ...destination,
    renditions: destination.renditions.map(change),
  }))

/** A rendition of which some cells are no longer held. */
export const withoutPins = (rendition: Rendition, isFreed: (pin: Pin) => boolean): Rendition => ({
  ...rendition,
  pins: rendition.pins.filter((pin) => !isFreed(pin)),
})

/** A show in which one cell of a destination is no longer held, in no step of its ladder. */
export const withoutPin = <Shown extends WithDestinations>(
  show: Shown,
  id: string,
  freed: Pin,
): Shown =>
  withRenditionsOf(show, id, (rendition) => withoutPins(rendition, (pin) => pin === freed))

/**
 * A show whose destination is reached in another way. A relay is itself fed by nobody; whom it fed is
 * sent to directly once it is none any more.
 */
export const withConnection = <Shown extends WithDestinations>(
  show: Shown,
  id: string,
  connection: Destination['connection'],
): Shown => ({
  ...show,
  destinations: show.destinations.map((destination) => {
    if (destination.id === id)
      return {
        ...destination,
        connection,
        relayId: connection === 'relay' ? null : destination.relayId,
      }
    return connection !== 'relay' && destination.relayId === id
      ? { ...destination, relayId: null }
      : destination
  }),
})
