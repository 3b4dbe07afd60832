import { resolve } from 'node:path'
import { sendingFromHereSchema } from '@green-mantle/core/night'
import { setResponseStatus } from 'h3'
import { useDatabase } from '../../../../database/connection'
import { readWholeFile } from '../../../../database/files/fileStore'
import { apiHandler } from '../../../../http/apiHandler'
import { requireEncoder } from '../../../../http/encoderRequests'
import { ProblemError } from '../../../../http/problem'
import { readJsonBody } from '../../../../http/readJsonBody'
import { readStoredShow, showIdOf } from '../../../../http/showRequests'
import { ingestFor } from '../../../../sender/ingests'
import { beginSender } from '../../../../sender/senders'
import { readSettings } from '../../../../settings'
import { standInFor } from '../../../../standIns/platforms'

/** Begins every encode of the plan, as it is saved; nothing is sent before it is asked for. */
export default apiHandler(async (event) => {
  const showId = showIdOf(event)
  const { target, inputs } = await readJsonBody(event, {
    name: 'A sender',
    limitBytes: 1000,
    schema: sendingFromHereSchema,
  })
  requireEncoder('There is nothing to send with')
  const [database, show] = [await useDatabase(), await readStoredShow(showId)]
  if (target === 'stand-ins') await standInFor(showId, show)
  const began = await beginSender({
    ...{ database, showId, target, show, inputs },
    recordingsFolder: resolve(readSettings().recordingsFolder),
    pieces: (fileId) => readWholeFile(database, fileId),
    ingestOf: (output, destination) => ingestFor(showId, target, output, destination),
  })
  if (!began)
    throw new ProblemError({
      status: 409,
      title: 'A show is being sent from here already',
      detail: 'One at a time: end that one first.',
    })
  setResponseStatus(event, 202)
  return null
})
