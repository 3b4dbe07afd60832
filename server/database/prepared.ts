import { removeLeftFolders } from '../files/workFolders'
import { readSettings } from '../settings'
import { useDatabase } from './connection'
import { purgeUnusedFiles } from './files/fileStore'
import { purgeForgottenKeys } from './keys/keyStore'
import { loadDemo, loadDemoKeys } from './loadDemo'
import { isEmpty, purgeDeletedShows } from './shows/showStore'

/** Removes for good what nobody has wanted for long. */
export async function tidyUp(): Promise<void> {
  const database = await useDatabase()
  await purgeDeletedShows(database)
  await purgeUnusedFiles(database)
  await purgeForgottenKeys(database)
  removeLeftFolders()
}

async function prepare(): Promise<void> {
  const database = await useDatabase()
  await tidyUp()
  if (!readSettings().loadDemoWhenEmpty) return
  if (await isEmpty(database)) await loadDemo(database)
  // They need the key file, which may not be usable yet; the show does not wait for it.
  await loadDemoKeys(database).catch((error: unknown) => {
    console.error('The demo’s keys are made at a later start:', error)
  })
}

let preparing: Promise<void> | undefined

/** Everything that is there before the first request: tables, and the demo show where it is wanted. A failure is tried again at the next call. */
export function untilPrepared(): Promise<void> {
  preparing ??= prepare().catch((error: unknown) => {
    preparing = undefined
    throw error
  })
  return preparing
}
