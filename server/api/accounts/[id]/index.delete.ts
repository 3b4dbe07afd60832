import { getRouterParam, setResponseStatus } from 'h3'
import { revokeTokens } from '../../../accounts/linking'
import { accountServiceAt, originOf } from '../../../accounts/service'
import { openTokens, removeAccount } from '../../../database/accounts/accountStore'
import { useDatabase } from '../../../database/connection'
import { apiHandler } from '../../../http/apiHandler'
import { useInstallationKey } from '../../../secrets/installationKey'

/** Gives the tokens back and forgets them. */
export default apiHandler(async (event) => {
  const id = getRouterParam(event, 'id') ?? ''
  const database = await useDatabase()
  const linked = await openTokens(database, await useInstallationKey(), id)
  if (linked) await revokeTokens(accountServiceAt(originOf(event)), linked.tokens)
  await removeAccount(database, id)
  setResponseStatus(event, 204)
  return null
})
