import {
  type NewNightEvent,
  newNightEventSchema,
  senderName,
  tendedKinds,
} from '@green-mantle/core/night'
import { z } from 'zod'
import { useDatabase } from '../../../../database/connection'
import { appendNightEvents } from '../../../../database/nights/nightStore'
import { apiHandler } from '../../../../http/apiHandler'
import { ProblemError } from '../../../../http/problem'
import { nightRightOf } from '../../../../http/nightRight'
import { turnsAtAPace } from '../../../../http/pace'
import { readJsonBody } from '../../../../http/readJsonBody'
import { showIdOf, showNotFound } from '../../../../http/showRequests'
import { nightWatch } from '../../../../night/watching'

const eventsSchema = z.array(newNightEventSchema).min(1).max(100)

/** A person taps now and then; a phone that was away brings what it kept. */
const phonePace = turnsAtAPace({ most: 120, aSecond: 1 })

const mayTend = ({ who, happening }: NewNightEvent): boolean =>
  who !== senderName && (tendedKinds as readonly string[]).includes(happening.kind)

/** What a phone's right does not reach, or brings faster than a person does, is refused whole. */
function checkTended(right: string, events: readonly NewNightEvent[]): void {
  const other = events.find((each) => !mayTend(each))
  if (other)
    throw new ProblemError({
      status: 403,
      title: 'This link does not reach so far',
      detail: `It lets tick, mark, note and report trouble under a name of one’s own; “${other.happening.kind}” is for the show’s own windows. Nothing was kept.`,
    })
  if (!phonePace(right, events.length))
    throw new ProblemError({
      status: 429,
      title: 'That is more than a person taps',
      detail: 'Nothing was kept; it is taken again in a moment.',
    })
}

/** Keeps what happened; sent again, it is kept once. */
export default apiHandler(async (event) => {
  const showId = showIdOf(event)
  const events = await readJsonBody(event, {
    name: 'What happened on a night',
    limitBytes: 300_000,
    schema: eventsSchema,
  })
  const right = nightRightOf(event)
  if (right !== undefined) checkTended(right, events)
  if (events.filter(({ happening }) => happening.kind === 'new night').length > 1)
    throw new ProblemError({
      status: 422,
      title: 'Another night begins once at a time',
      detail: 'Nothing was kept.',
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
