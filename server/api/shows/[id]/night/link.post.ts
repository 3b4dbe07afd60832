import { useDatabase } from '../../../../database/connection'
import { makeNightLink } from '../../../../database/nights/nightLinks'
import { apiHandler } from '../../../../http/apiHandler'
import { ProblemError } from '../../../../http/problem'
import { readStoredShow, showIdOf } from '../../../../http/showRequests'
import { readSettings } from '../../../../settings'

const ownNames = /^(127\.0\.0\.1|localhost|\[::1?\]|0\.0\.0\.0)(:|$)/

/** Gives out a link that carries a right to this show's night alone. */
export default apiHandler(async (event) => {
  const showId = showIdOf(event)
  await readStoredShow(showId)
  const made = await makeNightLink(await useDatabase(), showId)
  if (!made)
    throw new ProblemError({
      status: 409,
      title: 'Too many links to this night are out',
      detail: 'Take them back first; then a new one can be made.',
    })
  const { accessToken, allowedHosts } = readSettings()
  const hosts = allowedHosts.filter((host) => !ownNames.test(host))
  return {
    path: `/phone/${showId}?right=${made.token}`,
    endsAt: made.endsAt.toISOString(),
    /** Where a phone reaches it; empty while it is bound to this machine alone. */
    hosts: accessToken === null ? [] : hosts,
  }
})
