import type { H3Event } from 'h3'
import { z } from 'zod'
import { originOf, redirectUriAt, standInClientId } from '../service'

/** What an authorization request carries (RFC 6749 4.1.1, RFC 7636 4.3); it only ever leads back to this application. */
export const authorizeRequestSchema = (event: H3Event) =>
  z.object({
    response_type: z.literal('code'),
    client_id: z.literal(standInClientId),
    redirect_uri: z.literal(redirectUriAt(originOf(event))),
    state: z.string().min(1).max(200),
    code_challenge: z.string().length(43),
    code_challenge_method: z.literal('S256'),
  })
