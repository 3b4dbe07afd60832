import { defineNitroPlugin } from 'nitropack/runtime'
import { endAllListening } from '../listeners/listening'
import { stopPrograms } from '../programs/runProgram'
import { endAllSenders } from '../sender/senders'
import { closeStandIns } from '../standIns/platforms'

/** What was started here ends with the server, however that ends; this is for an orderly end. */
export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('close', async () => {
    await endAllSenders()
    await closeStandIns()
    await endAllListening()
    await stopPrograms()
  })
})
