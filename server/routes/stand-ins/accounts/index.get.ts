import { defineEventHandler, setResponseHeaders } from 'h3'
import { grantsPage } from '../../../accounts/standIn/pages'
import { pageHeaders } from '../../../standIns/page'

export default defineEventHandler((event) => {
  setResponseHeaders(event, pageHeaders)
  return grantsPage()
})
