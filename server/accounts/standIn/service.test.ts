import { describe, expect, it } from 'vitest'
import {
  accountFor,
  changeGrant,
  exchangeCode,
  issueCode,
  listGrants,
  refreshGrant,
  revokeToken,
} from './service'

/** The worked example of RFC 7636, Appendix B, from memory of it. */
const verifier = 'dBjftJeZ4CVP-mB92K27uhbUJU1p1r_wW1gFWFOEjXk'
const challenge = 'E9Melhoa2OwvFrEMTJguCHaoeK1t8URWbuGJSstw-cM'
const home = 'http://127.0.0.1:4700/accounts/callback'
const grant = () => exchangeCode(issueCode('fernhollow', challenge, home), verifier, home)!

describe('the stand-in account service', () => {
  it('takes a code once, with its own verifier and redirect only', () => {
    const code = issueCode('fernhollow', challenge, home)
    expect(exchangeCode(code, verifier, home)).toMatchObject({ accountId: 'fernhollow' })
    expect(exchangeCode(code, verifier, home)).toBeUndefined()
    const stolen = issueCode('fernhollow', challenge, home)
    expect(exchangeCode(stolen, `${verifier}x`, home)).toBeUndefined()
    // The wrong attempt used it up.
    expect(exchangeCode(stolen, verifier, home)).toBeUndefined()
    expect(
      exchangeCode(issueCode('fernhollow', challenge, home), verifier, 'http://elsewhere.example'),
    ).toBeUndefined()
    expect(exchangeCode('made-up', verifier, home)).toBeUndefined()
  })

  it('opens the account to an access token until that ends, and renews it', () => {
    const first = grant()
    expect(accountFor(first.accessToken)?.name).toBe('Fernhollow Glasshouse')
    changeGrant(first.id, 'end access')
    expect(accountFor(first.accessToken)).toBeUndefined()
    expect(listGrants().find(({ id }) => id === first.id)?.isAccessOver).toBe(true)
    const second = refreshGrant(first.refreshToken)!
    expect(accountFor(second.accessToken)?.id).toBe('fernhollow')
    // A refresh token is used up by its use.
    expect(refreshGrant(first.refreshToken)).toBeUndefined()
  })

  it('gives nothing any more once it is revoked, from either side', () => {
    const [byOwner, byUs] = [grant(), grant()]
    changeGrant(byOwner.id, 'revoke')
    revokeToken(byUs.refreshToken)
    for (const { accessToken, refreshToken } of [byOwner, byUs]) {
      expect(accountFor(accessToken)).toBeUndefined()
      expect(refreshGrant(refreshToken)).toBeUndefined()
    }
    expect(() => revokeToken('not known')).not.toThrow()
  })
})
