import { maxPictureClips } from '@green-mantle/core/measured'
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

const clipSchema = z.strictObject({ fileId: fileIdSchema, name: shortTextSchema.min(1) })

/** Begins to measure what the picture of a clip needs that was stored before, or of two. */
export default apiHandler(async (event) => {
  const { clips } = await readJsonBody(event, {
    name: 'Clips to measure',
    limitBytes: 4000,
    schema: z.strictObject({ clips: z.array(clipSchema).min(1).max(maxPictureClips) }),
  })
  requireEncoder('There is nothing to measure with')
  const database = await useDatabase()
  for (const { fileId, name } of clips) {
    const file = await findFile(database, fileId)
    if (!file || !isMediaType(file.mediaType))
      throw new ProblemError({
        status: 422,
        title: 'This is no clip',
        detail: `There is no video file for “${name}”. Nothing was measured.`,
      })
  }
  const withPieces = ({ fileId, name }: (typeof clips)[number]) => ({
    name,
    pieces: readWholeFile(database, fileId),
  })
  requireBegun(
    beginPicture({
      clips: clips.map(withPieces),
      keep: (picture) => keepPicture(database, picture),
    }),
  )
  setResponseStatus(event, 202)
  return null
})
