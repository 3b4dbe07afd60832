import { defineNitroPlugin } from 'nitropack/runtime'
import { admitSocket, socketLimits } from '../onAir/sockets'

/**
 * The library takes any path for a socket, and messages of 100 MB; both are narrowed before the first one is
 * asked for.
 */
export default defineNitroPlugin((nitro) => {
  nitro.h3App.options.websocket = {
    serverOptions: socketLimits,
    hooks: { upgrade: admitSocket },
  } as typeof nitro.h3App.options.websocket
})
