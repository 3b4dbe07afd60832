import { defineNitroPlugin } from 'nitropack/runtime'
import { closeDatabase, useDatabase } from '../database/connection'
import { purgeUnusedFiles } from '../database/files/fileStore'
import { purgeForgottenKeys } from '../database/keys/keyStore'
import { loadDemo } from '../database/loadDemo'
import { isEmpty, purgeDeletedShows } from '../database/shows/showStore'
import { readSettings } from '../settings'

/** Migrates at start and tidies up; requests wait for the same migration in `useDatabase`. */
export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('close', closeDatabase)
  prepare().catch((error: unknown) => {
    console.error('The database is not ready; each request will try again.', error)
  })
})

async function prepare(): Promise<void> {
  const database = await useDatabase()
  await purgeDeletedShows(database)
  await purgeUnusedFiles(database)
  await purgeForgottenKeys(database)
  if (readSettings().loadDemoWhenEmpty && (await isEmpty(database))) await loadDemo(database)
}
