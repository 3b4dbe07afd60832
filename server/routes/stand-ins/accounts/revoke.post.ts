import { defineEventHandler } from 'h3'
import { z } from 'zod'
import { revokeToken } from '../../../accounts/standIn/service'
import { readForm } from '../../../accounts/standIn/readForm'

export default defineEventHandler(async (event) => {
  const request = z.object({ token: z.string() }).safeParse(await readForm(event))
  if (request.success) revokeToken(request.data.token)
  return ''
})
