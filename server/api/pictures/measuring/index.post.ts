import { maxPictureClips } from '@green-mantle/core/measured'
import { setResponseStatus } from 'h3'
import { z } from 'zod'
import { useDatabase } from '../../../database/connection'
import { keepPicture } from '../../../database/pictures/pictureStore'
import { apiHandler } from '../../../http/apiHandler'
import { requireClip, storedClipSchema } from '../../../http/clipRequests'
import { requireEncoder } from '../../../http/encoderRequests'
import { requireBegun } from '../../../http/measuringRequests'
import { readJsonBody } from '../../../http/readJsonBody'
import { beginPicture } from '../../../measuring/pictureJob'

/** Begins to measure what the picture of a clip needs that was stored before, or of two. */
export default apiHandler(async (event) => {
  const { clips } = await readJsonBody(event, {
    name: 'Clips to measure',
    limitBytes: 4000,
    schema: z.strictObject({ clips: z.array(storedClipSchema).min(1).max(maxPictureClips) }),
  })
  requireEncoder('There is nothing to measure with')
  const database = await useDatabase()
  requireBegun(
    beginPicture({
      clips: await Promise.all(clips.map((clip) => requireClip(database, clip))),
      keep: (picture) => keepPicture(database, picture),
    }),
  )
  setResponseStatus(event, 202)
  return null
})
