import { defineNitroPlugin } from 'nitropack/runtime'
import { useDatabase } from '../database/connection'
import { untilPrepared } from '../database/prepared'
import { nightWatch } from '../night/watching'
import { tellAbandoned } from '../sender/tellAbandoned'

/**
 * Windows that watch a night are let go at the first sign of an end: the server waits for requests that
 * are under way, and these would never be over. They come back by themselves.
 */
export default defineNitroPlugin((nitro) => {
  for (const signal of ['SIGTERM', 'SIGINT'] as const)
    process.once(signal, () => nightWatch.close())
  untilPrepared()
    .then(async () => tellAbandoned(await useDatabase()))
    .catch((error: unknown) => {
      console.error('What was under way when a server ended could not be told.', error)
    })
  nitro.hooks.hook('close', () => nightWatch.close())
})
