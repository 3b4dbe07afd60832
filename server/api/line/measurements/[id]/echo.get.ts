import { setTimeout as pause } from 'node:timers/promises'
import { setResponseStatus } from 'h3'
import { apiHandler } from '../../../../http/apiHandler'
import { measurementOf } from '../../../../http/measurementRequests'

/** Answers after one round trip of the line, so that the asker can time it. */
export default apiHandler(async (event) => {
  const { pacer } = measurementOf(event)
  if (pacer) await pause(pacer.roundTripMilliseconds())
  setResponseStatus(event, 204)
  return null
})
