import { setResponseStatus } from 'h3'
import { useDatabase } from '../../../../database/connection'
import { takeNightLinksBack } from '../../../../database/nights/nightLinks'
import { apiHandler } from '../../../../http/apiHandler'
import { showIdOf } from '../../../../http/showRequests'
import { nightWatch } from '../../../../night/watching'

/** Takes every link to this night back. */
export default apiHandler(async (event) => {
  const showId = showIdOf(event)
  await takeNightLinksBack(await useDatabase(), showId)
  nightWatch.disconnect(showId)
  setResponseStatus(event, 204)
  return null
})
