import { setResponseHeader } from 'h3'
import { useDatabase } from '../../../database/connection'
import { saveShow } from '../../../database/shows/showStore'
import { apiHandler } from '../../../http/apiHandler'
import { ProblemError } from '../../../http/problem'
import {
  entityTag,
  readShowBody,
  revisionOf,
  showIdOf,
  showNotFound,
} from '../../../http/showRequests'

export default apiHandler(async (event) => {
  const revision = revisionOf(event)
  const show = await readShowBody(event)
  const result = await saveShow(await useDatabase(), showIdOf(event), revision, show)
  if (result.outcome === 'not found') throw showNotFound()
  if (result.outcome === 'changed since')
    throw new ProblemError(
      {
        status: 412,
        title: 'The show was saved elsewhere in the meantime',
        detail: 'Nothing was overwritten. Compare the two and choose.',
        current: { revision: result.current.revision, show: result.current.show },
      },
      { etag: entityTag(result.current.revision) },
    )
  setResponseHeader(event, 'etag', entityTag(result.revision))
  return { revision: result.revision }
})
