import { defineEventHandler, setResponseHeaders, setResponseStatus } from 'h3'
import { z } from 'zod'
import { exchangeCode, refreshGrant } from '../../../accounts/standIn/service'
import { readForm } from '../../../accounts/standIn/readForm'

const requestSchema = z.discriminatedUnion('grant_type', [
  z.object({
    grant_type: z.literal('authorization_code'),
    code: z.string(),
    code_verifier: z.string(),
    redirect_uri: z.string(),
  }),
  z.object({ grant_type: z.literal('refresh_token'), refresh_token: z.string() }),
])

export default defineEventHandler(async (event) => {
  setResponseHeaders(event, { 'cache-control': 'no-store', 'content-type': 'application/json' })
  const request = requestSchema.safeParse(await readForm(event))
  if (!request.success) {
    setResponseStatus(event, 400)
    return { error: 'invalid_request' }
  }
  const { data } = request
  const grant =
    data.grant_type === 'refresh_token'
      ? refreshGrant(data.refresh_token)
      : exchangeCode(data.code, data.code_verifier, data.redirect_uri)
  if (!grant) {
    setResponseStatus(event, 400)
    return { error: 'invalid_grant' }
  }
  return {
    access_token: grant.accessToken,
    token_type: 'Bearer',
    expires_in: Math.round((grant.accessEndsAt - Date.now()) / 1000),
    refresh_token: grant.refreshToken,
  }
})
