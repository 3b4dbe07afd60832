import { defineNitroPlugin } from 'nitropack/runtime'
import { closeDatabase, useDatabase } from '../database/connection'
import { purgeUnusedFiles } from '../database/files/fileStore'
import { purgeForgottenKeys } from '../database/keys/keyStore'
import { loadDemo } from '../database/loadDemo'
import { isEmpty, purgeDeletedShows } from '../database/shows/showStore'
import { removeLeftSpools } from '../files/spool'
import { readSettings } from '../settings'

/** Migrates at start and tidies up, then and every day; requests wait for the same migration in `useDatabase`. */
export default defineNitroPlugin((nitro) => {
  const tidying = setInterval(() => {
    tidyUp().catch((error: unknown) =>
      console.error('Tidying up failed; it is tried tomorrow.', error),
    )
  }, dayMilliseconds)
  tidying.unref()
  nitro.hooks.hook('close', () => {
    clearInterval(tidying)
    return closeDatabase()
  })
  prepare().catch((error: unknown) => {
    console.error('The database is not ready; each request will try again.', error)
  })
})

const dayMilliseconds = 24 * 3_600_000

/** Removes for good what nobody has wanted for long. */
async function tidyUp(): Promise<void> {
  const database = await useDatabase()
  await purgeDeletedShows(database)
  await purgeUnusedFiles(database)
  await purgeForgottenKeys(database)
  removeLeftSpools()
}

async function prepare(): Promise<void> {
  const database = await useDatabase()
  await tidyUp()
  if (readSettings().loadDemoWhenEmpty && (await isEmpty(database))) await loadDemo(database)
}
