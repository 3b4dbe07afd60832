import { defineEventHandler, setResponseHeader } from 'h3'
import { grantsPage } from '../../../accounts/standIn/pages'

export default defineEventHandler((event) => {
  setResponseHeader(event, 'content-type', 'text/html; charset=utf-8')
  return grantsPage()
})
