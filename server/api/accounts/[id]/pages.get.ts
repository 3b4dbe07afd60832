import { getRouterParam } from 'h3'
import { readAccount, refreshTokens } from '../../../accounts/linking'
import { accountServiceAt, originOf } from '../../../accounts/service'
import { openTokens, saveAccount } from '../../../database/accounts/accountStore'
import { useDatabase } from '../../../database/connection'
import { apiHandler } from '../../../http/apiHandler'
import { ProblemError } from '../../../http/problem'
import { useInstallationKey } from '../../../secrets/installationKey'

const linkAgain = (): ProblemError =>
  new ProblemError({
    status: 409,
    title: 'This account is not linked any more',
    detail: 'It was revoked or has run out. Link it again; the destination keeps its settings.',
  })

/** The pages and scheduled events of a linked account; tokens that have run out are renewed on the way. */
export default apiHandler(async (event) => {
  const id = getRouterParam(event, 'id') ?? ''
  const [database, key] = [await useDatabase(), await useInstallationKey()]
  const linked = await openTokens(database, key, id)
  if (!linked) throw linkAgain()
  const service = accountServiceAt(originOf(event))
  const found = await readAccount(service, linked.tokens)
  if (found) return found.pages
  const renewed = await refreshTokens(service, linked.tokens).catch(() => {
    throw linkAgain()
  })
  await saveAccount(database, key, { id, service: linked.service, name: linked.name }, renewed)
  const account = await readAccount(service, renewed.tokens)
  if (!account) throw linkAgain()
  return account.pages
})
