import { newNightEventSchema } from '@green-mantle/core/night'
import { z } from 'zod'
import { useDatabase } from '../../../../database/connection'
import { appendNightEvents } from '../../../../database/nights/nightStore'
import { apiHandler } from '../../../../http/apiHandler'
import { ProblemError } from '../../../../http/problem'
import { readJsonBody } from '../../../../http/readJsonBody'
import { showIdOf, showNotFound } from '../../../../http/showRequests'
import { nightWatch } from '../../../../night/watching'

const eventsSchema = z.array(newNightEventSchema).min(1).max(100)

/** Keeps what happened; sent again, it is kept once. */
export default apiHandler(async (event) => {
  const showId = showIdOf(event)
  const events = await readJsonBody(event, {
    name: 'What happened on a night',
    limitBytes: 300_000,
    schema: eventsSchema,
  })
  const appended = await appendNightEvents(await useDatabase(), showId, events)
  if (appended.outcome === 'no show') throw showNotFound()
  if (appended.outcome === 'full')
    throw new ProblemError({
      status: 409,
      title: 'The log of this show is full',
      detail: 'Save its wrap-up, and make the next show from this one. Nothing was kept.',
    })
  nightWatch.nudge()
  return { last: appended.last }
})
