import { defineEventHandler, getRequestHeader, setResponseHeader, setResponseStatus } from 'h3'
import { accountFor } from '../../../accounts/standIn/service'

/** The account that an access token opens, with its pages and their scheduled events. */
export default defineEventHandler((event) => {
  const token = /^Bearer (.+)$/.exec(getRequestHeader(event, 'authorization') ?? '')?.[1]
  const account = token === undefined ? undefined : accountFor(token)
  if (account) return account
  setResponseStatus(event, 401)
  setResponseHeader(event, 'www-authenticate', 'Bearer error="invalid_token"')
  return { error: 'invalid_token' }
})
