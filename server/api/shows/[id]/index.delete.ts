import { setResponseStatus } from 'h3'
import { useDatabase } from '../../../database/connection'
import { deleteShow } from '../../../database/shows/showStore'
import { apiHandler } from '../../../http/apiHandler'
import { showIdOf, showNotFound } from '../../../http/showRequests'

/** A deleted show can be brought back with `restore`. */
export default apiHandler(async (event) => {
  if (!(await deleteShow(await useDatabase(), showIdOf(event)))) throw showNotFound()
  setResponseStatus(event, 204)
  return null
})
