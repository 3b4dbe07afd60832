import { setResponseStatus } from 'h3'
import { apiHandler } from '../../../../http/apiHandler'
import { showIdOf } from '../../../../http/showRequests'
import { endSender } from '../../../../sender/senders'

/** Ends every send and encode; answers when nothing of it runs any more and recordings are closed. */
export default apiHandler(async (event) => {
  await endSender(showIdOf(event))
  setResponseStatus(event, 204)
  return null
})
