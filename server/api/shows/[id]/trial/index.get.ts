import { useDatabase } from '../../../../database/connection'
import { readTrial } from '../../../../database/trials/trialStore'
import { apiHandler } from '../../../../http/apiHandler'
import { showIdOf } from '../../../../http/showRequests'
import { missingProgram, systemPrograms } from '../../../../programs/systemPrograms'
import { trialState } from '../../../../trial/trialJob'

/** How far a trial of the show is, and what the last one came to. */
export default apiHandler(async (event) => {
  const showId = showIdOf(event)
  return {
    missing: missingProgram(systemPrograms.encoder) ?? null,
    state: trialState(showId),
    result: await readTrial(await useDatabase(), showId),
  }
})
