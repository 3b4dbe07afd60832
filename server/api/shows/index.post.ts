import { setResponseHeader, setResponseStatus } from 'h3'
import { nanoid } from 'nanoid'
import { useDatabase } from '../../database/connection'
import { createShow } from '../../database/shows/showStore'
import { apiHandler } from '../../http/apiHandler'
import { entityTag, readShowBody } from '../../http/showRequests'
import { summaryOf } from '../../database/shows/summary'

export default apiHandler(async (event) => {
  const show = await readShowBody(event)
  const stored = await createShow(await useDatabase(), nanoid(), show)
  setResponseStatus(event, 201)
  setResponseHeader(event, 'location', `/api/shows/${stored.id}`)
  setResponseHeader(event, 'etag', entityTag(stored.revision))
  return summaryOf(stored)
})
