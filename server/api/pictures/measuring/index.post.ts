import { isMediaType } from '@green-mantle/core/picture'
import { fileIdSchema, shortTextSchema } from '@green-mantle/core/show'
import { setResponseStatus } from 'h3'
import { z } from 'zod'
import { useDatabase } from '../../../database/connection'
import { findFile, readWholeFile } from '../../../database/files/fileStore'
import { keepPicture } from '../../../database/pictures/pictureStore'
import { apiHandler } from '../../../http/apiHandler'
import { requireEncoder } from '../../../http/encoderRequests'
import { ProblemError } from '../../../http/problem'
import { requireBegun } from '../../../http/measuringRequests'
import { readJsonBody } from '../../../http/readJsonBody'
import { beginPicture } from '../../../measuring/pictureJob'

/** Begins to measure what the picture of a clip needs that was stored before. */
export default apiHandler(async (event) => {
  const { fileId, name } = await readJsonBody(event, {
    name: 'A clip to measure',
    limitBytes: 2000,
    schema: z.strictObject({ fileId: fileIdSchema, name: shortTextSchema.min(1) }),
  })
  requireEncoder('There is nothing to measure with')
  const database = await useDatabase()
  const file = await findFile(database, fileId)
  if (!file || !isMediaType(file.mediaType))
    throw new ProblemError({
      status: 422,
      title: 'This is no clip',
      detail: 'There is no video file of this name. Nothing was measured.',
    })
  requireBegun(
    beginPicture({
      name,
      pieces: readWholeFile(database, fileId),
      keep: (picture) => keepPicture(database, picture),
    }),
  )
  setResponseStatus(event, 202)
  return null
})
