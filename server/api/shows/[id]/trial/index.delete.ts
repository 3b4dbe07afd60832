import { setResponseStatus } from 'h3'
import { apiHandler } from '../../../../http/apiHandler'
import { showIdOf } from '../../../../http/showRequests'
import { stopTrial } from '../../../../trial/trialJob'

/** Stops the trial; answers when what arrived by then is kept. */
export default apiHandler(async (event) => {
  await stopTrial(showIdOf(event))
  setResponseStatus(event, 204)
  return null
})
