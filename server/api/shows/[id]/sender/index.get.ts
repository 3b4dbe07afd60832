import { apiHandler } from '../../../../http/apiHandler'
import { showIdOf } from '../../../../http/showRequests'
import { missingProgram, systemPrograms } from '../../../../programs/systemPrograms'
import { senderState } from '../../../../sender/senders'

/** What is sent from here, and how it is. */
export default apiHandler(async (event) => ({
  missing: missingProgram(systemPrograms.encoder) ?? null,
  ...(await senderState(showIdOf(event))),
}))
