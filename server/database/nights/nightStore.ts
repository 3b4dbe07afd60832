import { type NewNightEvent, type NightEvent, nightEventSchema } from '@green-mantle/core/night'
import type { Knex } from 'knex'
import { parsed } from '../shows/row'
import { inTransaction } from '../transactions'
import { keepNightShow } from './nightShowStore'

interface EventRow {
  show_id: string
  sequence: number
  event_id: string
  event: unknown
}

/** When something was that does not say it. */
const epoch = new Date(0).toISOString()

/** A night of hours comes to some hundred entries; what goes beyond this is no night. */
export const maxNightEvents = 20_000
const maxAtOnce = 1000

export type Appended =
  | { outcome: 'kept'; last: number }
  | { outcome: 'no show' }
  | { outcome: 'full' }

const isThere = async (database: Knex, showId: string): Promise<boolean> =>
  Boolean(await database('shows').where({ id: showId }).whereNull('deleted_at').first('id'))

/** The number of the last entry of a show's log, 0 where nothing was kept; undefined where there is no such show. */
export async function lastNightSequence(
  database: Knex,
  showId: string,
): Promise<number | undefined> {
  const row = await database('shows')
    .leftJoin('night_logs', 'night_logs.show_id', 'shows.id')
    .where({ id: showId })
    .whereNull('deleted_at')
    .first<{ last_sequence: number | null } | undefined>('last_sequence')
  return row && (row.last_sequence ?? 0)
}

/** The entries of a show's log after the one of that number, first to last, so many at most. */
export async function readNightEvents(
  database: Knex,
  showId: string,
  after = 0,
  most = maxAtOnce,
): Promise<NightEvent[]> {
  const rows = await database<EventRow>('night_events')
    .where({ show_id: showId })
    .andWhere('sequence', '>', after)
    .orderBy('sequence')
    .limit(most)
  let lastAt = epoch
  return rows.map((row) => {
    const read = readable(row, lastAt)
    lastAt = read.at
    return read
  })
}

/** An entry as it was kept; one that cannot be read says so in its place, so that the rest of the night can. */
function readable({ sequence, event_id: id, event }: EventRow, at: string): NightEvent {
  const read = nightEventSchema.safeParse(readJson(event))
  if (read.success) return { ...read.data, sequence }
  console.error(`Entry ${sequence} of a night cannot be read and is left out.`, read.error.message)
  const text = 'An entry of this log cannot be read; it is left out, and kept as it is.'
  return { ...{ id, who: '', sequence, at }, happening: { kind: 'noted', text } }
}

function readJson(event: unknown): unknown {
  try {
    return parsed(event)
  } catch {
    return null
  }
}

/**
 * Adds to the log of a show what was not kept before, in the order given; resolves after commit. The
 * log's own row is locked meanwhile, so that whoever reads up to a number has read all before it.
 */
export async function appendNightEvents(
  database: Knex,
  showId: string,
  events: readonly NewNightEvent[],
  now = new Date(),
): Promise<Appended> {
  // Outside the transaction: a row that is not there cannot be locked without locking its neighbours.
  if (!(await isThere(database, showId))) return { outcome: 'no show' }
  await database.raw('INSERT IGNORE INTO night_logs (show_id, last_sequence) VALUES (?, 0)', [
    showId,
  ])
  return inTransaction(database, async (transaction): Promise<Appended> => {
    const log = await transaction('night_logs')
      .where({ show_id: showId })
      .forUpdate()
      .first<{ last_sequence: number } | undefined>('last_sequence')
    if (!log) return { outcome: 'no show' }
    const known = new Set(
      await transaction<EventRow>('night_events')
        .where({ show_id: showId })
        .whereIn(
          'event_id',
          events.map(({ id }) => id),
        )
        .pluck('event_id'),
    )
    // What comes twice within one request counts once too.
    const fresh = [...new Map(events.map((event) => [event.id, event])).values()].filter(
      ({ id }) => !known.has(id),
    )
    const last = log.last_sequence + fresh.length
    if (last > maxNightEvents) return { outcome: 'full' }
    if (fresh.length === 0) return { outcome: 'kept', last }
    await transaction('night_events').insert(
      fresh.map(({ id, who, agoSeconds, happening }, index) => ({
        show_id: showId,
        sequence: log.last_sequence + index + 1,
        event_id: id,
        event: JSON.stringify({
          ...{ id, who, happening },
          at: new Date(now.getTime() - agoSeconds * 1000).toISOString(),
        }),
      })),
    )
    for (const [index, { happening }] of fresh.entries())
      if (happening.kind === 'new night')
        await keepNightShow(transaction, showId, log.last_sequence + index + 1)
    await transaction('night_logs').where({ show_id: showId }).update({ last_sequence: last })
    return { outcome: 'kept', last }
  })
}
