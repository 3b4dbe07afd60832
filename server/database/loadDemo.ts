import { fitShow, withPlan } from '@green-mantle/core/plan'
import { demoProfiles, plannedDemoShow } from '@green-mantle/demo'
import type { Knex } from 'knex'
import { nanoid } from 'nanoid'
import { useInstallationKey } from '../secrets/installationKey'
import { storeKey } from './keys/keyStore'
import { saveProfile } from './profiles/profileStore'
import { createShow } from './shows/showStore'

/** Which of the demo's destinations have a key already, and how old that is. */
const demoKeys = [
  { destinationId: 'longmeadow', daysOld: 20 },
  // Per session, so that this one is stale.
  { destinationId: 'flickerbrook', daysOld: 7 },
  { destinationId: 'tallstory-wide', daysOld: 20 },
] as const

/** The demo show, and the profiles its destinations came from. */
export async function loadDemo(database: Knex): Promise<void> {
  for (const profile of demoProfiles) await saveProfile(database, profile)
  await createShow(
    database,
    nanoid(),
    withPlan(plannedDemoShow, fitShow(plannedDemoShow).parts ?? []),
  )
}

/** Made-up keys for a demo show that was never changed and has none. */
export async function loadDemoKeys(database: Knex): Promise<void> {
  const fresh = (await database('shows')
    .where({ title: plannedDemoShow.title, revision: 1 })
    .whereNull('deleted_at')
    .whereNotExists(database('stream_keys').whereRaw('stream_keys.show_id = shows.id'))
    .first('id')) as { id: string } | undefined
  if (!fresh) return
  const key = await useInstallationKey()
  for (const { destinationId, daysOld } of demoKeys) {
    const storedAt = new Date(Date.now() - daysOld * 24 * 3_600_000)
    await storeKey(database, key, { showId: fresh.id, destinationId, storedAt }, nanoid())
  }
}
