import { setResponseStatus } from 'h3'
import { apiHandler } from '../../../../http/apiHandler'
import { measurementOf } from '../../../../http/measurementRequests'
import { endMeasurement } from '../../../../line/measurements'

export default apiHandler(async (event) => {
  endMeasurement(measurementOf(event).id)
  setResponseStatus(event, 204)
  return null
})
