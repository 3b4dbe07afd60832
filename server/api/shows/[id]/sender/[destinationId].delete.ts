import { setResponseStatus } from 'h3'
import { apiHandler } from '../../../../http/apiHandler'
import { destinationIdOf } from '../../../../http/keyRequests'
import { showIdOf } from '../../../../http/showRequests'
import { notSentFromHere } from '../../../../http/senderRequests'
import { senderOf } from '../../../../sender/senders'

/** Ends the send to one destination; the others go on. */
export default apiHandler((event) => {
  const sender = senderOf(showIdOf(event))
  if (!sender?.stopSend(destinationIdOf(event))) throw notSentFromHere()
  setResponseStatus(event, 202)
  return Promise.resolve(null)
})
