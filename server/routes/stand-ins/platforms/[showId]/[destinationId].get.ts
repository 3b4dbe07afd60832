import { createError, defineEventHandler, getRouterParam, setResponseHeaders } from 'h3'
import { pageHeaders } from '../../../../standIns/page'
import { platformPage } from '../../../../standIns/platformPage'
import { arrivingAt, standInAddress, standInOf } from '../../../../standIns/platforms'

export default defineEventHandler(async (event) => {
  const [showId, destinationId] = ['showId', 'destinationId'].map(
    (name) => getRouterParam(event, name) ?? '',
  ) as [string, string]
  const platform = standInOf(showId, destinationId)
  if (!platform) throw createError({ statusCode: 404, statusMessage: 'Nothing stands in for that' })
  setResponseHeaders(event, pageHeaders)
  return platformPage(platform, {
    action: `/stand-ins/platforms/${showId}/${destinationId}`,
    address: await standInAddress(showId, destinationId),
    report: arrivingAt(showId, destinationId),
  })
})
