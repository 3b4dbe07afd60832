import { useDatabase } from '../../database/connection'
import { listPictures } from '../../database/pictures/pictureStore'
import { apiHandler } from '../../http/apiHandler'
import { pictureState } from '../../measuring/pictureJob'
import { missingProgram, systemPrograms } from '../../programs/systemPrograms'

/** The pictures that were measured here, whether one can be measured, and how far that is. */
export default apiHandler(async () => ({
  pictures: await listPictures(await useDatabase()),
  missing: missingProgram(systemPrograms.encoder) ?? null,
  measuring: pictureState(),
}))
