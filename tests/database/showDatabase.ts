import type { Show } from '@green-mantle/core/show'
import { demoShow } from '@green-mantle/demo'
import { nanoid } from 'nanoid'
import { afterAll, beforeEach } from 'vitest'
import { connect, migrate } from '../../server/database/connection'
import { listShows } from '../../server/database/shows/showList'
import { createShow } from '../../server/database/shows/showStore'
import { ownDatabase } from './ownDatabase'

/** A copy of a show, changed. */
export function edited(change: (show: Show) => void, from: Show = demoShow): Show {
  const copy = structuredClone(from)
  change(copy)
  return copy
}

/** A test file's own database with all tables, in which each test begins with no show. */
export async function showDatabase(name: string) {
  const databaseUrl = await ownDatabase(name)
  await migrate(databaseUrl)
  const database = connect(databaseUrl)
  beforeEach(async () => {
    await database('shows').delete()
  })
  afterAll(() => database.destroy())
  return {
    databaseUrl,
    database,
    async stored(show: Show = demoShow): Promise<string> {
      const id = nanoid()
      await createShow(database, id, show)
      return id
    },
    listed: async (): Promise<string[]> =>
      (await listShows(database, { limit: 60 })).shows.map(({ id }) => id),
  }
}
