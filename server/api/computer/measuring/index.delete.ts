import { setResponseStatus } from 'h3'
import { apiHandler } from '../../../http/apiHandler'
import { stopMeasuring } from '../../../measuring/measuringJob'

/** Stops measuring; answers when what was known by then is kept. */
export default apiHandler(async (event) => {
  await stopMeasuring()
  setResponseStatus(event, 204)
  return null
})
