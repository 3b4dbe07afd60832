import { deleteCookie, defineEventHandler, getCookie, getRequestURL, sendRedirect } from 'h3'
import { AuthorizationResponseError } from 'oauth4webapi'
import { finishLinking, readAccount } from '../../accounts/linking'
import { accountServiceAt, originOf } from '../../accounts/service'
import { saveAccount } from '../../database/accounts/accountStore'
import { useDatabase } from '../../database/connection'
import { linkingCookie } from '../../http/linkingCookie'
import { useInstallationKey } from '../../secrets/installationKey'

/** Where the account service sends a person back to; outside the API, since they come from another site. */
export default defineEventHandler(async (event) => {
  const origin = originOf(event)
  const service = accountServiceAt(origin)
  const state = getCookie(event, linkingCookie.name) ?? ''
  deleteCookie(event, linkingCookie.name, linkingCookie.options)
  try {
    const grant = await finishLinking(service, origin, getRequestURL(event), state)
    const account = await readAccount(service, grant.tokens)
    if (!account) throw new Error('The account service did not take its own token.')
    const { id, name } = account
    const key = await useInstallationKey()
    await saveAccount(await useDatabase(), key, { id, service: service.name, name }, grant)
    return sendRedirect(event, `/linked?outcome=linked&account=${id}`, 303)
  } catch (error) {
    const isRefusal = error instanceof AuthorizationResponseError && error.error === 'access_denied'
    // Only what kind of failure it was: the rest may hold a code.
    if (!isRefusal) console.error('Linking an account failed:', (error as Error).name)
    return sendRedirect(event, `/linked?outcome=${isRefusal ? 'refused' : 'failed'}`, 303)
  }
})
