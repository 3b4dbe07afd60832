import { getRouterParam, type H3Event } from 'h3'
import { readAccount, refreshTokens, type ServiceAccount, type Tokens } from './linking'
import { accountServiceAt, originOf } from './service'
import { openTokens, saveAccount } from '../database/accounts/accountStore'
import { useDatabase } from '../database/connection'
import { ProblemError } from '../http/problem'
import { useInstallationKey } from '../secrets/installationKey'

const linkAgain = (): ProblemError =>
  new ProblemError({
    status: 409,
    title: 'This account is not linked any more',
    detail: 'It was revoked or has run out. Link it again; the destination keeps its settings.',
  })

/** A refresh token is used up by its use, so that all who ask at once wait for one renewal. */
const renewals = new Map<string, Promise<Tokens>>()

function renewedOnce(id: string, renew: () => Promise<Tokens>): Promise<Tokens> {
  const underWay = renewals.get(id)
  if (underWay) return underWay
  const own = renew().finally(() => renewals.delete(id))
  renewals.set(id, own)
  return own
}

/** What is in the linked account that a request names; tokens that have run out are renewed on the way. */
export async function readLinkedAccount(event: H3Event): Promise<ServiceAccount> {
  const id = getRouterParam(event, 'id') ?? ''
  const [database, key] = [await useDatabase(), await useInstallationKey()]
  const linked = await openTokens(database, key, id)
  if (!linked) throw linkAgain()
  const service = accountServiceAt(originOf(event))
  const found = await readAccount(service, linked.tokens)
  if (found) return found
  // Another may have renewed them since they were read here.
  const latest = await openTokens(database, key, id)
  if (latest && latest.tokens.access !== linked.tokens.access) {
    const again = await readAccount(service, latest.tokens)
    if (again) return again
  }
  const { service: name, name: accountName } = linked
  const tokens = await renewedOnce(id, async () => {
    const renewed = await refreshTokens(service, linked.tokens).catch(() => {
      throw linkAgain()
    })
    await saveAccount(database, key, { id, service: name, name: accountName }, renewed)
    return renewed.tokens
  })
  const account = await readAccount(service, tokens)
  if (!account) throw linkAgain()
  return account
}
