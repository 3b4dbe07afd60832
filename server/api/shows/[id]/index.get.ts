import { setResponseHeader, setResponseStatus } from 'h3'
import { useDatabase } from '../../../database/connection'
import { readRevision, readShow } from '../../../database/shows/showStore'
import { apiHandler } from '../../../http/apiHandler'
import { entityTag, hasRevision, showIdOf, showNotFound } from '../../../http/showRequests'

export default apiHandler(async (event) => {
  const [database, id] = [await useDatabase(), showIdOf(event)]
  // Every open window asks this every few seconds: the show itself is read only where it is another one.
  const revision = await readRevision(database, id)
  if (revision === undefined) throw showNotFound()
  if (hasRevision(event, revision)) {
    setResponseStatus(event, 304)
    return null
  }
  const stored = await readShow(database, id)
  if (!stored) throw showNotFound()
  setResponseHeader(event, 'etag', entityTag(stored.revision))
  return stored.show
})
