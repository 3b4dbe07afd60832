import { profileSchema } from '@green-mantle/core/show'
import { setResponseStatus } from 'h3'
import { useDatabase } from '../../database/connection'
import { saveProfile } from '../../database/profiles/profileStore'
import { apiHandler } from '../../http/apiHandler'
import { ProblemError } from '../../http/problem'
import { readJsonBody } from '../../http/readJsonBody'

/** Takes a new profile or a newer revision of one. */
export default apiHandler(async (event) => {
  const profile = await readJsonBody(event, {
    name: 'A profile',
    limitBytes: 400_000,
    schema: profileSchema,
  })
  if (!(await saveProfile(await useDatabase(), profile)))
    throw new ProblemError({
      status: 409,
      title: `${profile.name} is here in this revision or a newer one`,
      detail: `Revision ${profile.revision} was not taken; what is here stays.`,
    })
  setResponseStatus(event, 201)
  return profile
})
