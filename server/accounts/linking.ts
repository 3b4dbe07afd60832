import {
  allowInsecureRequests,
  authorizationCodeGrantRequest,
  calculatePKCECodeChallenge,
  generateRandomCodeVerifier,
  generateRandomState,
  None,
  processAuthorizationCodeResponse,
  processRefreshTokenResponse,
  refreshTokenGrantRequest,
  revocationRequest,
  type TokenEndpointResponse,
  validateAuthResponse,
} from 'oauth4webapi'
import { z } from 'zod'
import { type AccountService, redirectUriAt } from './service'

/** What a service gave us; kept sealed. */
export const tokensSchema = z.strictObject({ access: z.string(), refresh: z.string() })
export type Tokens = z.infer<typeof tokensSchema>
export interface TokenGrant {
  tokens: Tokens
  accessEndsAt: Date
}

/** The account as the service describes it. */
const accountSchema = z.object({
  id: z.string().regex(/^[A-Za-z0-9_-]{1,40}$/),
  name: z.string().max(200),
  pages: z
    .array(
      z.object({
        id: z.string().max(200),
        name: z.string().max(200),
        events: z.array(z.object({ id: z.string().max(200), title: z.string().max(200) })),
      }),
    )
    .max(500),
  /** Whether it may go live at all; absent where the service does not say. */
  live: z.object({ allowed: z.boolean() }).optional(),
  /** Where else somebody is logged in to it, in a way that may end a send. */
  sessions: z
    .array(z.object({ device: z.string().max(200) }))
    .max(100)
    .optional(),
})
export type ServiceAccount = z.infer<typeof accountSchema>

const pendingSeconds = 600
const pending = new Map<string, { verifier: string; endsAt: number }>()
const defaultAccessSeconds = 3600

const options = ({ mayBePlain }: AccountService) => ({ [allowInsecureRequests]: mayBePlain })

/** Begins to link an account: where to send the person, and the state by which they are known when they come back. */
export async function beginLinking(
  service: AccountService,
  origin: string,
): Promise<{ address: string; state: string }> {
  const now = Date.now()
  for (const [state, { endsAt }] of pending) if (endsAt < now) pending.delete(state)
  const [verifier, state] = [generateRandomCodeVerifier(), generateRandomState()]
  pending.set(state, { verifier, endsAt: now + pendingSeconds * 1000 })
  const address = new URL(service.server.authorization_endpoint ?? '')
  const parameters = {
    response_type: 'code',
    client_id: service.client.client_id,
    redirect_uri: redirectUriAt(origin),
    state,
    code_challenge: await calculatePKCECodeChallenge(verifier),
    code_challenge_method: 'S256',
  }
  for (const [name, value] of Object.entries(parameters)) address.searchParams.set(name, value)
  return { address: address.href, state }
}

function grantFrom(response: TokenEndpointResponse, before = ''): TokenGrant {
  const seconds = response.expires_in ?? defaultAccessSeconds
  return {
    tokens: { access: response.access_token, refresh: response.refresh_token ?? before },
    accessEndsAt: new Date(Date.now() + seconds * 1000),
  }
}

/**
 * Ends the linking with what the service sent the person back with. Throws what oauth4webapi throws
 * where it was refused or is not right.
 */
export async function finishLinking(
  service: AccountService,
  origin: string,
  answer: URL,
  state: string,
): Promise<TokenGrant> {
  const begun = pending.get(state)
  pending.delete(state)
  if (!begun || begun.endsAt < Date.now()) throw new Error('This linking was not begun here.')
  const { server, client } = service
  const parameters = validateAuthResponse(server, client, answer, state)
  const response = await authorizationCodeGrantRequest(
    server,
    client,
    None(),
    parameters,
    redirectUriAt(origin),
    begun.verifier,
    options(service),
  )
  return grantFrom(await processAuthorizationCodeResponse(server, client, response))
}

/** New tokens for old ones. Throws where the service does not give any, as after it was revoked there. */
export async function refreshTokens(service: AccountService, tokens: Tokens): Promise<TokenGrant> {
  const { server, client } = service
  const response = await refreshTokenGrantRequest(
    server,
    client,
    None(),
    tokens.refresh,
    options(service),
  )
  return grantFrom(await processRefreshTokenResponse(server, client, response), tokens.refresh)
}

/** Gives the tokens back, as far as the service can be reached. */
export async function revokeTokens(service: AccountService, tokens: Tokens): Promise<void> {
  const { server, client } = service
  await revocationRequest(server, client, None(), tokens.refresh, options(service)).catch(
    () => undefined,
  )
}

/** What is in the account; undefined where the access token is not good any more. */
export async function readAccount(
  service: AccountService,
  tokens: Tokens,
): Promise<ServiceAccount | undefined> {
  const response = await fetch(service.accountAddress, {
    headers: { authorization: `Bearer ${tokens.access}` },
  })
  if (response.status === 401) return undefined
  if (!response.ok) throw new Error(`The account service answered ${response.status}.`)
  return accountSchema.parse(await response.json())
}
