import { setResponseStatus } from 'h3'
import { apiHandler } from '../../../../../http/apiHandler'
import { showIdOf } from '../../../../../http/showRequests'
import { closeListening } from '../../../../../listeners/listening'

/** Leaves the listeners to this computer alone again. */
export default apiHandler(async (event) => {
  await closeListening(showIdOf(event))
  setResponseStatus(event, 204)
  return null
})
