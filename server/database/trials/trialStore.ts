import { type TrialResult, trialResultSchema } from '@green-mantle/core/trial'
import type { Knex } from 'knex'
import { parsed } from '../shows/row'

/** The last trial of a show; null where there was none. */
export async function readTrial(database: Knex, showId: string): Promise<TrialResult | null> {
  const row = await database<{ show_id: string; result: unknown }>('trials')
    .where({ show_id: showId })
    .first()
  return row ? trialResultSchema.parse(parsed(row.result)) : null
}

/** Keeps the last trial of a show in place of the one before; resolves after commit. */
export async function keepTrial(
  database: Knex,
  showId: string,
  result: TrialResult,
): Promise<void> {
  const text = JSON.stringify(trialResultSchema.parse(result))
  await database.raw(
    'INSERT INTO trials (show_id, result) VALUES (?, ?) ON DUPLICATE KEY UPDATE result = VALUES(result)',
    [showId, text],
  )
}
