import { setResponseStatus } from 'h3'
import { apiHandler } from '../../../http/apiHandler'
import { stopPicture } from '../../../measuring/pictureJob'

/** Stops measuring; answers when what was known by then is kept. */
export default apiHandler(async (event) => {
  await stopPicture()
  setResponseStatus(event, 204)
  return null
})
