import { defineEventHandler, readBody } from 'h3'
import { z } from 'zod'
import { revokeToken } from '../../../accounts/standIn/service'

export default defineEventHandler(async (event) => {
  const request = z.object({ token: z.string() }).safeParse(await readBody(event))
  if (request.success) revokeToken(request.data.token)
  return ''
})
