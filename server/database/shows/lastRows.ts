import type { Knex } from 'knex'
import type { ShowRows } from './rows'

/** So many shows are edited at once at most, as far as this is concerned; each takes about 100 kB. */
const maxShows = 250

interface Kept {
  revision: number
  rows: ShowRows
}

const byDatabase = new WeakMap<Knex, Map<string, Kept>>()

/**
 * The rows of a show at a revision, where this process wrote them itself: they need not be read again
 * to tell what a save changes. Nobody can have written others under the same revision, since that is
 * raised under a lock with every save.
 */
export function lastRows(database: Knex, id: string, revision: number): ShowRows | undefined {
  const kept = byDatabase.get(database)?.get(id)
  return kept?.revision === revision ? kept.rows : undefined
}

/** Keeps what was just committed; the show that was saved longest ago goes first. */
export function keepRows(database: Knex, id: string, revision: number, rows: ShowRows): void {
  const shows = byDatabase.get(database) ?? new Map<string, Kept>()
  byDatabase.set(database, shows)
  shows.delete(id)
  shows.set(id, { revision, rows })
  const [oldest] = shows.keys()
  if (shows.size > maxShows && oldest !== undefined) shows.delete(oldest)
}
