import { type Profile, profileSchema } from '@green-mantle/core/show'
import type { Knex } from 'knex'
import { parsed } from '../shows/row'

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
  return database.transaction(async (transaction) => {
    const { id, revision } = profile
    const present = await transaction<ProfileRow>('profiles').where({ id }).forUpdate().first()
    if (present && present.revision >= revision) return false
    await transaction('profiles')
      .insert({ id, revision, profile: JSON.stringify(profile) })
      .onConflict('id')
      .merge()
    return true
  })
}

/** false where there is none. */
export async function removeProfile(database: Knex, id: string): Promise<boolean> {
  return (await database('profiles').where({ id }).delete()) > 0
}
