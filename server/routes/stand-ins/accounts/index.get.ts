import { defineEventHandler, setResponseHeaders } from 'h3'
import { grantsPage, pageHeaders } from '../../../accounts/standIn/pages'

export default defineEventHandler((event) => {
  setResponseHeaders(event, pageHeaders)
  return grantsPage()
})
