import { setResponseStatus } from 'h3'
import { apiHandler } from '../../../http/apiHandler'
import { ProblemError } from '../../../http/problem'
import { readJsonBody } from '../../../http/readJsonBody'
import { beginMeasurement, measurementRequestSchema } from '../../../line/measurements'

export default apiHandler(async (event) => {
  const request = await readJsonBody(event, {
    name: 'A measurement',
    limitBytes: 10_000,
    schema: measurementRequestSchema,
  })
  const measurement = beginMeasurement(request)
  if (!measurement)
    throw new ProblemError({
      status: 429,
      title: 'Too many measurements are under way',
      detail: 'They would only measure each other. Wait until one has ended.',
    })
  setResponseStatus(event, 201)
  return { id: measurement.id }
})
