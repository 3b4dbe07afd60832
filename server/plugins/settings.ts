import { defineNitroPlugin } from 'nitropack/runtime'
import { readSettings } from '../settings'

/** What is wrong with the settings is said at once, and nothing is served under them. */
export default defineNitroPlugin(() => {
  try {
    readSettings()
  } catch (error) {
    console.error((error as Error).message)
    process.exit(1)
  }
})
