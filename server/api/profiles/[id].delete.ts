import { getRouterParam, setResponseStatus } from 'h3'
import { useDatabase } from '../../database/connection'
import { removeProfile } from '../../database/profiles/profileStore'
import { apiHandler } from '../../http/apiHandler'
import { ProblemError } from '../../http/problem'

export default apiHandler(async (event) => {
  if (!(await removeProfile(await useDatabase(), getRouterParam(event, 'id') ?? '')))
    throw new ProblemError({
      status: 404,
      title: 'There is no such profile',
      detail: 'It may have been removed already.',
    })
  setResponseStatus(event, 204)
  return null
})
