import { getRouterParam, setResponseStatus } from 'h3'
import { useDatabase } from '../../database/connection'
import { removePicture } from '../../database/pictures/pictureStore'
import { apiHandler } from '../../http/apiHandler'
import { ProblemError } from '../../http/problem'

export default apiHandler(async (event) => {
  const isRemoved = await removePicture(await useDatabase(), getRouterParam(event, 'id') ?? '')
  if (!isRemoved)
    throw new ProblemError({
      status: 404,
      title: 'This picture is not there',
      detail: 'It may have been removed in another window.',
    })
  setResponseStatus(event, 204)
  return null
})
