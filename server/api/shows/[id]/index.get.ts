import { setResponseHeader } from 'h3'
import { useDatabase } from '../../../database/connection'
import { readShow } from '../../../database/shows/showStore'
import { apiHandler } from '../../../http/apiHandler'
import { entityTag, showIdOf, showNotFound } from '../../../http/showRequests'

export default apiHandler(async (event) => {
  const stored = await readShow(await useDatabase(), showIdOf(event))
  if (!stored) throw showNotFound()
  setResponseHeader(event, 'etag', entityTag(stored.revision))
  return stored.show
})
