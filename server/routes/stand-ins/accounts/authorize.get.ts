import { defineEventHandler, getQuery, setResponseHeader, setResponseStatus } from 'h3'
import { consentPage } from '../../../accounts/standIn/pages'
import { authorizeRequestSchema } from '../../../accounts/standIn/requests'

export default defineEventHandler((event) => {
  const request = authorizeRequestSchema(event).safeParse(getQuery(event))
  if (!request.success) {
    setResponseStatus(event, 400)
    return 'This is no request to link an account.'
  }
  setResponseHeader(event, 'content-type', 'text/html; charset=utf-8')
  return consentPage(request.data)
})
