import { setResponseStatus } from 'h3'
import { useDatabase } from '../../../../../database/connection'
import { storeKey } from '../../../../../database/keys/keyStore'
import { readShow } from '../../../../../database/shows/showStore'
import { apiHandler } from '../../../../../http/apiHandler'
import {
  destinationIdOf,
  destinationNotFound,
  keyBodySchema,
} from '../../../../../http/keyRequests'
import { readJsonBody } from '../../../../../http/readJsonBody'
import { showIdOf, showNotFound } from '../../../../../http/showRequests'
import { useInstallationKey } from '../../../../../secrets/installationKey'

export default apiHandler(async (event) => {
  const [showId, destinationId] = [showIdOf(event), destinationIdOf(event)]
  const body = await readJsonBody(event, {
    name: 'A key',
    limitBytes: 10_000,
    schema: keyBodySchema,
  })
  const database = await useDatabase()
  const stored = await readShow(database, showId)
  if (!stored) throw showNotFound()
  if (!stored.show.destinations.some(({ id }) => id === destinationId)) throw destinationNotFound()
  await storeKey(database, await useInstallationKey(), { showId, destinationId }, body.key)
  setResponseStatus(event, 204)
  return null
})
