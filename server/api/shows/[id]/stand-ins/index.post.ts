import { setResponseStatus } from 'h3'
import { apiHandler } from '../../../../http/apiHandler'
import { readStoredShow, showIdOf } from '../../../../http/showRequests'
import { standInFor } from '../../../../standIns/platforms'

/** Lets a platform stand in for each destination of the show as it is saved. */
export default apiHandler(async (event) => {
  const showId = showIdOf(event)
  await standInFor(showId, await readStoredShow(showId))
  setResponseStatus(event, 204)
  return null
})
