import { defineNitroPlugin } from 'nitropack/runtime'
import { nightWatch } from '../night/watching'

/** Windows that watch a night come back by themselves. */
export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('close', () => nightWatch.close())
})
