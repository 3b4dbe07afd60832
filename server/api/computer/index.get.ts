import { useDatabase } from '../../database/connection'
import { readOwnComputer } from '../../database/computer/computerStore'
import { apiHandler } from '../../http/apiHandler'
import { freeForRecordings } from '../../measuring/freeDisk'
import { measuringState } from '../../measuring/measuringJob'
import { missingProgram, systemPrograms } from '../../programs/systemPrograms'

/** This installation's own computer, what is free on it, whether it can be measured here, and how far that is. */
export default apiHandler(async () => ({
  ...(await readOwnComputer(await useDatabase())),
  freeDiskGigabytes: await freeForRecordings(),
  missing: missingProgram(systemPrograms.encoder) ?? null,
  measuring: measuringState(),
}))
