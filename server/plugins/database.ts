import { defineNitroPlugin } from 'nitropack/runtime'
import { closeDatabase } from '../database/connection'
import { tidyUp, untilPrepared } from '../database/prepared'

const dayMilliseconds = 24 * 3_600_000

/** Migrates at start and tidies up, then and every day; requests wait for the same migration in `useDatabase`. */
export default defineNitroPlugin((nitro) => {
  const tidying = setInterval(() => {
    tidyUp().catch((error: unknown) => {
      console.error('Tidying up failed; it is tried again tomorrow.', error)
    })
  }, dayMilliseconds)
  tidying.unref()
  nitro.hooks.hook('close', () => {
    clearInterval(tidying)
    return closeDatabase()
  })
  untilPrepared().catch((error: unknown) => {
    console.error('The database is not ready; each request will try again.', error)
  })
})
