import { type H3Event, getRequestHost, getRequestProtocol } from 'h3'
import type { AuthorizationServer, Client } from 'oauth4webapi'
import { readSettings } from '../settings'

export const standInClientId = 'green-mantle'

/** An account service: where it asks, gives tokens, takes them back, and tells what is in an account. */
export interface AccountService {
  name: string
  server: AuthorizationServer
  client: Client
  accountAddress: string
  /** Only for the stand-in on this very machine; a real service is spoken to by TLS alone. */
  mayBePlain: boolean
}

/** The name under which this request reached us, which the same-origin rule has checked. */
export const originOf = (event: H3Event): string =>
  `${getRequestProtocol(event)}://${getRequestHost(event)}`
export const redirectUriAt = (origin: string): string => `${origin}/accounts/callback`

/**
 * The stand-in, described as any service is; a real one is put in its place here. A person is sent to
 * it by the name under which they reached us; what this server asks itself, it asks at an address
 * that no request has a say in, since it brings tokens along.
 */
export function accountServiceAt(origin: string): AccountService {
  const base = `${readSettings().ownOrigin}/stand-ins/accounts`
  return {
    name: 'practice accounts',
    server: {
      issuer: base,
      authorization_endpoint: `${origin}/stand-ins/accounts/authorize`,
      token_endpoint: `${base}/token`,
      revocation_endpoint: `${base}/revoke`,
    },
    client: { client_id: standInClientId },
    accountAddress: `${base}/account`,
    mayBePlain: true,
  }
}
