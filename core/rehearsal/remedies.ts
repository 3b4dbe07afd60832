import { isTaken, lineOf, type Show } from '../show'
import {
  withDestination,
  withDestinationOff,
  withMedium,
  withoutTraffic,
  withSendingOf,
} from '../show/edits'

/** One thing that may make more nights clean. */
export interface Remedy {
  id: string
  label: string
  note: string
  change(show: Show): Show
}

/** What a remedy does to the same nights. */
export interface RemedyResult {
  id: string
  label: string
  note: string
  nights: number
  clean: number
  /** Nights won by it, and lost. */
  won: number
  /** Σ score over the sends it leaves, against before; below zero where it costs. */
  points: number
}

/** What can be tried for a show. */
export function remediesFor(show: Show): Remedy[] {
  const line = lineOf(show)
  const taken = show.destinations.filter(isTaken)
  const remedies: Remedy[] = []
  const stiff = taken.filter(
    ({ sending, connection, relayId }) =>
      sending.whenBehind !== 'lower' && connection !== 'hand-off' && relayId === null,
  )
  for (const { id, name } of stiff)
    remedies.push({
      id: `lower ${id}`,
      label: `Let ${name} lower its bitrate`,
      note: 'where its encoder can',
      change: (before) => withSendingOf(before, id, { whenBehind: 'lower' }),
    })
  if (stiff.length > 1)
    remedies.push({
      id: 'lower all',
      label: 'Let every send lower its bitrate',
      note: 'where the encoders can',
      change: (before) => ({
        ...before,
        destinations: before.destinations.map((each) => ({
          ...each,
          sending: { ...each.sending, whenBehind: 'lower' as const },
        })),
      }),
    })
  for (const { id, name, sending } of taken)
    if (sending.whenBehind === 'drop' && sending.mostWaitSeconds < 4)
      remedies.push({
        id: `wait ${id}`,
        label: `A longer buffer for ${name}, 4.5 s`,
        note: 'viewers may get it later',
        change: (before) => withSendingOf(before, id, { mostWaitSeconds: 4.5 }),
      })
  if (line.medium !== 'cable' && line.samples.some(({ medium }) => medium === 'cable'))
    remedies.push({
      id: 'cable',
      label: 'By cable',
      note: 'the measurements by cable alone',
      change: (before) => withMedium(before, 'cable'),
    })
  for (const { id, name } of line.otherTraffic.filter(({ on }) => on))
    remedies.push({
      id: `traffic ${id}`,
      label: `${name} off the line`,
      note: 'for the length of the show',
      change: (before) => withoutTraffic(before, id),
    })
  for (const { id, name, backupAddress } of taken)
    if (backupAddress !== null)
      remedies.push({
        id: `backup ${id}`,
        label: `${name} without its second ingest`,
        note: 'one send less; less safe when it hangs up',
        change: (before) =>
          withDestination(before, id, (each) => ({ ...each, backupAddress: null })),
      })
  for (const { id, name, plan } of taken)
    if (taken.length > 1 && !plan.mustKeep)
      remedies.push({
        id: `without ${id}`,
        label: `Without ${name}`,
        note: 'one place less',
        change: (before) => withDestinationOff(before, id),
      })
  for (const relay of show.destinations.filter(
    ({ on, connection }) => on && connection === 'relay',
  ))
    for (const { id, name, canvas, relayId, connection, plan } of taken)
      if (
        relay.canvas === canvas &&
        relayId === null &&
        connection === 'address and key' &&
        !plan.routePinned
      )
        remedies.push({
          id: `relay ${relay.id} ${id}`,
          label: `${name} through ${relay.name}`,
          note: 'one send less of its own',
          change: (before) =>
            withDestination(before, id, (each) => ({ ...each, relayId: relay.id })),
        })
  return remedies
}

/** What helps, the most first: nights won, then the fewest points lost. What makes it no better is left out. */
export const rankedRemedies = (results: readonly RemedyResult[]): RemedyResult[] =>
  results.filter(({ won }) => won > 0).sort((a, b) => b.won - a.won || b.points - a.points)
