import { useDatabase } from '../../../../database/connection'
import { readShow } from '../../../../database/shows/showStore'
import { apiHandler } from '../../../../http/apiHandler'
import { showIdOf, showNotFound } from '../../../../http/showRequests'
import { beginListening, listeningState } from '../../../../listeners/listening'

/** Listens to every send of the show as it is saved; asked again, follows what has changed. */
export default apiHandler(async (event) => {
  const id = showIdOf(event)
  const stored = await readShow(await useDatabase(), id)
  if (!stored) throw showNotFound()
  await beginListening(id, stored.show)
  return listeningState(id)
})
