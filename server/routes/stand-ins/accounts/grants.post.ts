import { defineEventHandler, sendRedirect } from 'h3'
import { z } from 'zod'
import { changeGrant, grantChanges } from '../../../accounts/standIn/service'
import { readForm } from '../../../accounts/standIn/readForm'

const bodySchema = z.object({ grant: z.string(), change: z.enum(grantChanges) })

export default defineEventHandler(async (event) => {
  const body = bodySchema.safeParse(await readForm(event))
  if (body.success) changeGrant(body.data.grant, body.data.change)
  return sendRedirect(event, '/stand-ins/accounts', 303)
})
