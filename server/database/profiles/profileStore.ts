import { type Profile, profileSchema } from '@green-mantle/core/show'
import type { Knex } from 'knex'
import { parsed } from '../shows/row'
import { inTransaction } from '../transactions'

interface ProfileRow {
  id: string
  revision: number
  profile: unknown
}

/** Every destination profile of this installation, by name. */
export async function listProfiles(database: Knex): Promise<Profile[]> {
  const rows = await database<ProfileRow>('profiles')
  return rows
    .map(({ profile }) => profileSchema.parse(parsed(profile)))
    .sort((a, b) => a.name.localeCompare(b.name))
}

/** Keeps a profile; resolves after commit. One that is no newer than what is there is not taken, and false comes back. */
export async function saveProfile(database: Knex, profile: Profile): Promise<boolean> {
  const { id, revision } = profile
  const row = { id, revision, profile: JSON.stringify(profile) }
  // The first of its name is there at once; locking a row that is not there would lock its neighbours.
  const [inserted] = await inTransaction(database, (transaction) =>
    transaction.raw('INSERT IGNORE INTO profiles (id, revision, profile) VALUES (?, ?, ?)', [
      row.id,
      row.revision,
      row.profile,
    ]),
  )
  if ((inserted as { affectedRows: number }).affectedRows > 0) return true
  // By itself, since whoever found the row there shares its lock, and of many none could then change it.
  const newer = await inTransaction(database, (transaction) =>
    transaction('profiles').where({ id }).where('revision', '<', revision).update(row),
  )
  return newer > 0
}

/** false where there is none. */
export async function removeProfile(database: Knex, id: string): Promise<boolean> {
  return (await database('profiles').where({ id }).delete()) > 0
}
