import { practiceLineNames } from '@green-mantle/core/network'
import { fileIdSchema } from '@green-mantle/core/show'
import { ownHostProblem, trialSecondsLimits } from '@green-mantle/core/trial'
import { setResponseStatus } from 'h3'
import { z } from 'zod'
import { readOwnComputer } from '../../../../database/computer/computerStore'
import { useDatabase } from '../../../../database/connection'
import { readWholeFile } from '../../../../database/files/fileStore'
import { readShow } from '../../../../database/shows/showStore'
import { keepTrial } from '../../../../database/trials/trialStore'
import { apiHandler } from '../../../../http/apiHandler'
import { requireEncoder } from '../../../../http/encoderRequests'
import { ProblemError } from '../../../../http/problem'
import { readJsonBody } from '../../../../http/readJsonBody'
import { showIdOf, showNotFound } from '../../../../http/showRequests'
import { beginTrial } from '../../../../trial/trialJob'

const ownHostSchema = z
  .string()
  .trim()
  .max(500)
  .superRefine((address, context) => {
    const problem = ownHostProblem(address)
    if (problem !== null) context.addIssue({ code: 'custom', message: problem })
  })

/** Begins to run the plan of the show, as it is saved, for real. */
export default apiHandler(async (event) => {
  const showId = showIdOf(event)
  const { seconds, line, ownHost, clips } = await readJsonBody(event, {
    name: 'A trial',
    limitBytes: 1000,
    schema: z.strictObject({
      seconds: z.int().min(trialSecondsLimits.min).max(trialSecondsLimits.max),
      line: z.enum(practiceLineNames).nullable(),
      ownHost: ownHostSchema.nullable().default(null),
      clips: z.strictObject({
        landscape: fileIdSchema.nullable(),
        vertical: fileIdSchema.nullable(),
      }),
    }),
  })
  requireEncoder('There is nothing to try it with')
  const database = await useDatabase()
  const stored = await readShow(database, showId)
  if (!stored) throw showNotFound()
  const { installation } = await readOwnComputer(database)
  const began = beginTrial({
    ...{ showId, show: stored.show, installation, seconds, line, ownHost, clips },
    pieces: (fileId) => readWholeFile(database, fileId),
    keep: (result) => keepTrial(database, showId, result),
  })
  if (!began)
    throw new ProblemError({
      status: 409,
      title: 'A trial is under way already',
      detail: 'Two at once would slow each other down. Wait for it, or stop it first.',
    })
  setResponseStatus(event, 202)
  return null
})
