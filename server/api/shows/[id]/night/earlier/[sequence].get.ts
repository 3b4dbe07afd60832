import { getRouterParam } from 'h3'
import { useDatabase } from '../../../../../database/connection'
import { readNightShow } from '../../../../../database/nights/nightShowStore'
import { apiHandler } from '../../../../../http/apiHandler'
import { sequenceFrom } from '../../../../../http/nightRequests'
import { readStoredShow, showIdOf } from '../../../../../http/showRequests'

/** The show as it stood when the entry of that number put a night away; null where it was not kept then. */
export default apiHandler(async (event) => {
  const showId = showIdOf(event)
  const sequence = sequenceFrom(getRouterParam(event, 'sequence'))
  const kept = await readNightShow(await useDatabase(), showId, sequence)
  // A show that is not there is a 404, one whose earlier state is not is none.
  if (!kept) await readStoredShow(showId)
  return { show: kept }
})
