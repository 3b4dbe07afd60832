import { defineNitroPlugin } from 'nitropack/runtime'
import { nightWatch } from '../night/watching'

/**
 * Windows that watch a night are let go at the first sign of an end: the server waits for requests that
 * are under way, and these would never be over. They come back by themselves.
 */
export default defineNitroPlugin((nitro) => {
  for (const signal of ['SIGTERM', 'SIGINT'] as const)
    process.once(signal, () => nightWatch.close())
  nitro.hooks.hook('close', () => nightWatch.close())
})
