import { useDatabase } from '../../database/connection'
import { readOwnComputer } from '../../database/computer/computerStore'
import { apiHandler } from '../../http/apiHandler'
import { measuringState } from '../../measuring/measuringJob'
import { missingProgram, systemPrograms } from '../../programs/systemPrograms'

/** This installation's own computer, whether it can be measured here, and how far that is. */
export default apiHandler(async () => ({
  ...(await readOwnComputer(await useDatabase())),
  missing: missingProgram(systemPrograms.encoder) ?? null,
  measuring: measuringState(),
}))
