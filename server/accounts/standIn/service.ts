import { createHash, randomBytes, timingSafeEqual } from 'node:crypto'

/**
 * A small account service of our own that stands in for a real one: accounts with pages and scheduled
 * events, and the parts of OAuth 2.0 that linking uses (RFC 6749 code flow, RFC 7636 PKCE, RFC 7009
 * revocation). It lives in memory; everybody in it is invented.
 */
export const standInAccounts = [
  {
    id: 'fernhollow',
    name: 'Fernhollow Glasshouse',
    pages: [
      {
        id: 'glasshouse',
        name: 'Glasshouse evenings',
        events: [
          { id: 'bloom', title: 'Night Bloom, 12 December 21:00' },
          { id: 'ferns', title: 'Fern walk, 19 December 15:00' },
        ],
      },
      { id: 'seed-fund', name: 'Seed fund', events: [] },
    ],
  },
  {
    id: 'second-host',
    name: 'Second host',
    pages: [{ id: 'own', name: 'Own page', events: [] }],
  },
] as const
type StandInAccount = (typeof standInAccounts)[number]

interface Grant {
  id: string
  accountId: string
  accessToken: string
  accessEndsAt: number
  refreshToken: string
  mayGoLive: boolean
  isOnPhone: boolean
}
interface PendingCode {
  accountId: string
  challenge: string
  redirectUri: string
  endsAt: number
}

const accessSeconds = 3600
const codeSeconds = 60
const codes = new Map<string, PendingCode>()
const grants = new Map<string, Grant>()
const secret = (): string => randomBytes(24).toString('base64url')

/** Notes that a person allowed it, and gives the code that can be exchanged once. */
export function issueCode(accountId: string, challenge: string, redirectUri: string): string {
  const code = secret()
  codes.set(code, { accountId, challenge, redirectUri, endsAt: Date.now() + codeSeconds * 1000 })
  return code
}

function renew(grant: Grant): Grant {
  const renewed = {
    ...grant,
    accessToken: secret(),
    accessEndsAt: Date.now() + accessSeconds * 1000,
    refreshToken: secret(),
  }
  grants.set(grant.id, renewed)
  return renewed
}

const keepsChallenge = (challenge: string, verifier: string): boolean => {
  const hashed = createHash('sha256').update(verifier).digest('base64url')
  return (
    hashed.length === challenge.length &&
    timingSafeEqual(Buffer.from(hashed), Buffer.from(challenge))
  )
}

/** The grant for a code; undefined where the code, its redirect or the verifier is not right. A code is used up by the attempt. */
export function exchangeCode(
  code: string,
  verifier: string,
  redirectUri: string,
): Grant | undefined {
  const pending = codes.get(code)
  codes.delete(code)
  if (!pending || pending.endsAt < Date.now() || pending.redirectUri !== redirectUri)
    return undefined
  if (!keepsChallenge(pending.challenge, verifier)) return undefined
  const id = secret()
  return renew({
    id,
    accountId: pending.accountId,
    accessToken: '',
    accessEndsAt: 0,
    refreshToken: '',
    mayGoLive: true,
    isOnPhone: false,
  })
}

/** New tokens for a refresh token, which is used up. */
export function refreshGrant(refreshToken: string): Grant | undefined {
  const grant = [...grants.values()].find((candidate) => candidate.refreshToken === refreshToken)
  return grant && renew(grant)
}

/** An account with what holds now: whether it may go live, and where else somebody is logged in to it. */
export type OpenedAccount = StandInAccount & {
  live: { allowed: boolean }
  sessions: { device: string }[]
}

/** The account that an access token opens; undefined where it is over or revoked. */
export function accountFor(accessToken: string): OpenedAccount | undefined {
  const grant = [...grants.values()].find((candidate) => candidate.accessToken === accessToken)
  if (!grant || grant.accessEndsAt < Date.now()) return undefined
  const account = standInAccounts.find(({ id }) => id === grant.accountId)
  return (
    account && {
      ...account,
      live: { allowed: grant.mayGoLive },
      sessions: grant.isOnPhone ? [{ device: 'a phone' }] : [],
    }
  )
}

/** Ends the grant that a token belongs to; one that is not known is no error (RFC 7009). */
export function revokeToken(token: string): void {
  for (const { id, accessToken, refreshToken } of grants.values())
    if (accessToken === token || refreshToken === token) grants.delete(id)
}

/** Who may use which account, for the service's own page. */
export function listGrants(): (Pick<Grant, 'id' | 'mayGoLive' | 'isOnPhone'> & {
  accountName: string
  isAccessOver: boolean
})[] {
  return [...grants.values()].map(({ id, accountId, accessEndsAt, mayGoLive, isOnPhone }) => ({
    ...{ id, mayGoLive, isOnPhone },
    accountName: standInAccounts.find((account) => account.id === accountId)?.name ?? '',
    isAccessOver: accessEndsAt < Date.now(),
  }))
}

export const grantChanges = ['end access', 'revoke', 'going live', 'phone'] as const
/**
 * What a person can do on the service's own page: end the access token early, take everything back, forbid
 * going live or allow it again, log in on a phone or out.
 */
export type GrantChange = (typeof grantChanges)[number]

export function changeGrant(id: string, change: GrantChange): void {
  const grant = grants.get(id)
  if (!grant) return
  if (change === 'revoke') grants.delete(id)
  else
    grants.set(id, {
      ...grant,
      ...(change === 'end access' && { accessEndsAt: 0 }),
      ...(change === 'going live' && { mayGoLive: !grant.mayGoLive }),
      ...(change === 'phone' && { isOnPhone: !grant.isOnPhone }),
    })
}
