import { openMinutesChoices } from '@green-mantle/core/arrival'
import { z } from 'zod'
import { apiHandler } from '../../../../../http/apiHandler'
import { ProblemError } from '../../../../../http/problem'
import { readJsonBody } from '../../../../../http/readJsonBody'
import { showIdOf } from '../../../../../http/showRequests'
import { listeningState, openListening } from '../../../../../listeners/listening'

/** Opens the listeners of a show to the local network for a stated time. */
export default apiHandler(async (event) => {
  const showId = showIdOf(event)
  const { minutes } = await readJsonBody(event, {
    name: 'Opening to the network',
    limitBytes: 1000,
    schema: z.strictObject({ minutes: z.literal(openMinutesChoices) }),
  })
  const isOpen = await openListening(showId, minutes).catch((error: unknown) => {
    throw new ProblemError({
      status: 409,
      title: 'The listeners are not open to the network',
      detail: (error as Error).message,
    })
  })
  if (!isOpen)
    throw new ProblemError({
      status: 409,
      title: 'Nothing listens yet',
      detail: 'Begin to listen first; then it can be opened to the network.',
    })
  return listeningState(showId)
})
