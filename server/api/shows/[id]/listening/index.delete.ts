import { setResponseStatus } from 'h3'
import { apiHandler } from '../../../../http/apiHandler'
import { showIdOf } from '../../../../http/showRequests'
import { endListening } from '../../../../listeners/listening'

/** Listens no more. */
export default apiHandler(async (event) => {
  await endListening(showIdOf(event))
  setResponseStatus(event, 204)
  return null
})
