import { defineEventHandler, getQuery, setResponseHeaders, setResponseStatus } from 'h3'
import { consentPage } from '../../../accounts/standIn/pages'
import { pageHeaders } from '../../../standIns/page'
import { authorizeRequestSchema } from '../../../accounts/standIn/requests'

export default defineEventHandler((event) => {
  const request = authorizeRequestSchema(event).safeParse(getQuery(event))
  if (!request.success) {
    setResponseStatus(event, 400)
    return 'This is no request to link an account.'
  }
  setResponseHeaders(event, pageHeaders)
  return consentPage(request.data)
})
