import { defineEventHandler, sendRedirect, setResponseStatus } from 'h3'
import { z } from 'zod'
import { authorizeRequestSchema } from '../../../accounts/standIn/requests'
import { issueCode, standInAccounts } from '../../../accounts/standIn/service'
import { readForm } from '../../../accounts/standIn/readForm'

const accountIds = standInAccounts.map(({ id }) => id)

export default defineEventHandler(async (event) => {
  const answered = authorizeRequestSchema(event)
    .extend({ answer: z.enum(['allow', 'refuse']), account: z.enum(accountIds) })
    .safeParse(await readForm(event))
  if (!answered.success) {
    setResponseStatus(event, 400)
    return 'This is no answer to a request to link an account.'
  }
  const { answer, account, state, code_challenge, redirect_uri } = answered.data
  const back = new URL(redirect_uri)
  back.searchParams.set('state', state)
  if (answer === 'allow')
    back.searchParams.set('code', issueCode(account, code_challenge, redirect_uri))
  else back.searchParams.set('error', 'access_denied')
  return sendRedirect(event, back.href, 303)
})
