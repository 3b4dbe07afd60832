import { createError, defineEventHandler, getRouterParam, sendRedirect } from 'h3'
import { readForm } from '../../../../accounts/standIn/readForm'
import { hangUp, standInOf } from '../../../../standIns/platforms'

export default defineEventHandler(async (event) => {
  const [showId, destinationId] = ['showId', 'destinationId'].map(
    (name) => getRouterParam(event, name) ?? '',
  ) as [string, string]
  const platform = standInOf(showId, destinationId)
  if (!platform) throw createError({ statusCode: 404, statusMessage: 'Nothing stands in for that' })
  const actions: Record<string, () => void> = {
    key: () => platform.giveKey(),
    start: () => platform.pressStart(false),
    practise: () => platform.pressStart(true),
    open: () => platform.openToAll(),
    end: () => platform.pressEnd(),
    'hang up': () => hangUp(showId, destinationId),
    refuse: () => {
      platform.refusesNext = true
    },
  }
  const { do: wanted = '' } = await readForm(event)
  if (Object.hasOwn(actions, wanted)) actions[wanted]?.()
  return sendRedirect(event, `/stand-ins/platforms/${showId}/${destinationId}`, 303)
})
