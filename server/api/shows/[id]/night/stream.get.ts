import { getQuery, getRequestHeader } from 'h3'
import { useDatabase } from '../../../../database/connection'
import { mayTendNight } from '../../../../database/nights/nightLinks'
import { lastNightSequence } from '../../../../database/nights/nightStore'
import { apiHandler } from '../../../../http/apiHandler'
import { nightRightOf } from '../../../../http/nightRight'
import { sequenceFrom } from '../../../../http/nightRequests'
import { ProblemError } from '../../../../http/problem'
import { showIdOf, showNotFound } from '../../../../http/showRequests'
import { nightWatch } from '../../../../night/watching'

/** A window that reads so slowly is let go; it comes back and catches up. */
const maxUnreadBytes = 1_000_000
/** So that what stands between does not take it for dead. */
const breathMilliseconds = 15_000

/**
 * The log of the show's nights as it grows, as server-sent events. Each carries its number as its id,
 * so that a window that was away catches up from the last one it had.
 */
export default apiHandler(async (event) => {
  const showId = showIdOf(event)
  if ((await lastNightSequence(await useDatabase(), showId)) === undefined) throw showNotFound()
  const right = nightRightOf(event)
  const lastHad = getRequestHeader(event, 'last-event-id') ?? getQuery(event).after
  const { req, res } = event.node
  const send = (text: string): boolean => {
    if (res.writableLength > maxUnreadBytes) res.destroy()
    return !res.destroyed && (res.write(text), true)
  }
  const end = nightWatch.watch(showId, {
    sequence: sequenceFrom(lastHad),
    take: (events) =>
      send(
        events.map((each) => `id: ${each.sequence}\ndata: ${JSON.stringify(each)}\n\n`).join(''),
      ),
    end: () => res.end(),
    ...(right !== undefined && {
      mayStay: async () => mayTendNight(await useDatabase(), showId, right),
    }),
  })
  if (!end)
    throw new ProblemError({
      status: 503,
      title: 'Too many windows look at a night',
      detail: 'Close some of them. This one goes on asking by itself.',
    })
  const breath = setInterval(() => send(':\n\n'), breathMilliseconds)
  const stop = (): void => {
    clearInterval(breath)
    end()
  }
  req.once('close', stop)
  res.once('close', stop)
  res.writeHead(200, {
    'content-type': 'text/event-stream',
    'cache-control': 'no-store',
    'x-accel-buffering': 'no',
  })
  send('retry: 1000\n\n')
  // Answered by what is written from here on.
  event._handled = true
  return undefined
})
