import { apiHandler } from '../../../../http/apiHandler'
import { notSentFromHere } from '../../../../http/senderRequests'
import { showIdOf } from '../../../../http/showRequests'
import { senderOf } from '../../../../sender/senders'

/** Keeps the last seconds of every canvas as files; answers with their names when they are written. */
export default apiHandler(async (event) => {
  const sender = senderOf(showIdOf(event))
  if (!sender) throw notSentFromHere()
  return { files: await sender.keepLookBacks() }
})
