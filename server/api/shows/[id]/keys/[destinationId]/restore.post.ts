import { setResponseStatus } from 'h3'
import { useDatabase } from '../../../../../database/connection'
import { setForgotten } from '../../../../../database/keys/keyStore'
import { apiHandler } from '../../../../../http/apiHandler'
import { destinationIdOf, keyNotFound } from '../../../../../http/keyRequests'
import { showIdOf } from '../../../../../http/showRequests'

export default apiHandler(async (event) => {
  const [showId, destinationId] = [showIdOf(event), destinationIdOf(event)]
  if (!(await setForgotten(await useDatabase(), showId, destinationId, null))) throw keyNotFound()
  setResponseStatus(event, 204)
  return null
})
