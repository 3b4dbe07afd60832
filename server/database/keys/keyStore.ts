import type { KeyRecord } from '@green-mantle/core/destinations'
import type { Knex } from 'knex'
import type { InstallationKey } from '../../secrets/keyFile'
import { fingerprint, type OpenResult, seal, unseal } from '../../secrets/sealing'
import { inTransaction } from '../transactions'

interface KeyRow {
  show_id: string
  destination_id: string
  sealed: string
  fingerprint: string
  previous_fingerprint: string | null
  stored_at: Date | string
  forgotten_at: Date | string | null
}

/** Keys of destinations that are gone, and forgotten ones, can come back for this long. */
const keepForgottenDays = 30

const placeOf = (showId: string, destinationId: string): string => `key/${showId}/${destinationId}`

/** Of a deleted show there are none until it is brought back. */
const presentKeys = (database: Knex, showId: string) =>
  database<KeyRow>('stream_keys')
    .where({ show_id: showId })
    .whereNull('forgotten_at')
    .whereExists(database('shows').where({ id: showId }).whereNull('deleted_at'))

/** What is known of the stored keys of a show, without any of them. */
export async function listKeys(
  database: Knex,
  key: InstallationKey,
  showId: string,
): Promise<KeyRecord[]> {
  const rows = (await presentKeys(database, showId)) as KeyRow[]
  return rows.map((row) => {
    const { outcome } = unseal(key, row.sealed, placeOf(showId, row.destination_id))
    return {
      destinationId: row.destination_id,
      storedAt: new Date(row.stored_at).toISOString(),
      readable: outcome === 'opened' ? 'yes' : outcome,
      sameAs: rows
        .filter((other) => other !== row && other.fingerprint === row.fingerprint)
        .map((other) => other.destination_id),
      isAsBefore: row.previous_fingerprint === row.fingerprint,
    }
  })
}

/** Stores a key, sealed, in place of the one before; resolves after commit. */
export async function storeKey(
  database: Knex,
  key: InstallationKey,
  at: { showId: string; destinationId: string; storedAt?: Date },
  text: string,
): Promise<void> {
  const { showId, destinationId, storedAt = new Date() } = at
  const where = { show_id: showId, destination_id: destinationId }
  const present = {
    sealed: seal(key, text, placeOf(showId, destinationId)),
    fingerprint: fingerprint(key, text),
    stored_at: storedAt,
    forgotten_at: null,
  }
  // In one statement: a lock on a row that is not there yet would be one on its neighbours too.
  await inTransaction(database, (transaction) =>
    transaction('stream_keys')
      .insert({ ...where, ...present, previous_fingerprint: null })
      .onConflict(['show_id', 'destination_id'])
      // Set in this order, so that the first is what was there before.
      .merge({ previous_fingerprint: transaction.raw('fingerprint'), ...present }),
  )
}

/** Opens one stored key; undefined where there is none. */
export async function openKey(
  database: Knex,
  key: InstallationKey,
  showId: string,
  destinationId: string,
): Promise<OpenResult | undefined> {
  const row = await presentKeys(database, showId).where({ destination_id: destinationId }).first()
  return row && unseal(key, row.sealed, placeOf(showId, destinationId))
}

/** Forgets a key, or brings a forgotten one back; false where there is none. */
export async function setForgotten(
  database: Knex,
  showId: string,
  destinationId: string,
  forgottenAt: Date | null,
): Promise<boolean> {
  const count = await database('stream_keys')
    .where({ show_id: showId, destination_id: destinationId })
    .whereExists(database('shows').where({ id: showId }).whereNull('deleted_at'))
    .update({ forgotten_at: forgottenAt })
  return count > 0
}

/** Removes for good the keys that were forgotten long ago, and those whose destination is gone as long. */
export async function purgeForgottenKeys(database: Knex, now = new Date()): Promise<void> {
  const before = new Date(now.getTime() - keepForgottenDays * 24 * 3_600_000)
  await database('stream_keys').where('forgotten_at', '<', before).delete()
  await database('stream_keys')
    .where('stored_at', '<', before)
    .whereNotExists(
      database('destinations')
        .whereRaw('destinations.show_id = stream_keys.show_id')
        .whereRaw('destinations.id = stream_keys.destination_id'),
    )
    .delete()
}
