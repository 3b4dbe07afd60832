import { getQuery } from 'h3'
import { useDatabase } from '../../../../database/connection'
import { lastNightSequence, readNightEvents } from '../../../../database/nights/nightStore'
import { apiHandler } from '../../../../http/apiHandler'
import { sequenceFrom } from '../../../../http/nightRequests'
import { showIdOf, showNotFound } from '../../../../http/showRequests'

/** The log of the show's nights after `?after=`, a part at a time, and what this server's clock says. */
export default apiHandler(async (event) => {
  const showId = showIdOf(event)
  const database = await useDatabase()
  const last = await lastNightSequence(database, showId)
  if (last === undefined) throw showNotFound()
  const events = await readNightEvents(database, showId, sequenceFrom(getQuery(event).after))
  return { events, last, now: new Date().toISOString() }
})
