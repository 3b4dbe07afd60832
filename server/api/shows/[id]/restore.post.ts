import { setResponseStatus } from 'h3'
import { useDatabase } from '../../../database/connection'
import { restoreShow } from '../../../database/shows/showStore'
import { apiHandler } from '../../../http/apiHandler'
import { showIdOf, showNotFound } from '../../../http/showRequests'

export default apiHandler(async (event) => {
  if (!(await restoreShow(await useDatabase(), showIdOf(event)))) throw showNotFound()
  setResponseStatus(event, 204)
  return null
})
