import { z } from 'zod'
import { apiHandler } from '../../../../http/apiHandler'
import { ProblemError } from '../../../../http/problem'
import { readJsonBody } from '../../../../http/readJsonBody'
import { readStoredShow, showIdOf } from '../../../../http/showRequests'
import { hasOnAirWindow, onAirTicket } from '../../../../onAir/windows'

const bodySchema = z.strictObject({ takesOver: z.boolean() })

/** Gives a window the right to draw a show: a ticket for one socket, used once. */
export default apiHandler(async (event) => {
  const showId = showIdOf(event)
  const { takesOver } = await readJsonBody(event, {
    name: 'An on-air window',
    limitBytes: 200,
    schema: bodySchema,
  })
  await readStoredShow(showId)
  if (hasOnAirWindow(showId) && !takesOver)
    throw new ProblemError({
      status: 409,
      title: 'Another window draws this show',
      detail: 'It goes on. Take over here, and that one stops.',
    })
  return { ticket: onAirTicket(showId) }
})
