import { readShowFile, writeShowFile } from '@green-mantle/core/formats'
import type { Show } from '@green-mantle/core/show'
import type { Knex } from 'knex'
import { readShowIn } from '../shows/showStore'

interface NightShowRow {
  show_id: string
  sequence: number
  /** As a show file says it, which later versions of the application still read. */
  show_file: string
}

/** A show takes up to some megabytes; so many nights of one are kept with theirs. */
const maxKept = 24

/** Keeps the show as it stands for the night that the entry of that number puts away. */
export async function keepNightShow(
  transaction: Knex.Transaction,
  showId: string,
  sequence: number,
): Promise<void> {
  const stored = await readShowIn(transaction, showId)
  if (!stored) return
  const shows = () => transaction<NightShowRow>('night_shows').where({ show_id: showId })
  await transaction<NightShowRow>('night_shows').insert({
    ...{ show_id: showId, sequence },
    // Short, since a large show with indents is more than a file that can be read.
    show_file: writeShowFile(stored.show, 0),
  })
  const kept = await shows().orderBy('sequence', 'desc').limit(maxKept).pluck('sequence')
  await shows()
    .andWhere('sequence', '<', Math.min(...kept))
    .delete()
}

/** The show as it stood when the entry of that number put a night away; null where it was not kept. */
export async function readNightShow(
  database: Knex,
  showId: string,
  sequence: number,
): Promise<Show | null> {
  const row = await database<NightShowRow>('night_shows')
    .join('shows', 'shows.id', 'night_shows.show_id')
    .whereNull('shows.deleted_at')
    .where({ show_id: showId, sequence })
    .first('show_file')
  if (!row) return null
  const read = readShowFile(row.show_file)
  return read.ok ? read.show : null
}
