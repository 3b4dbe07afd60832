import { sendRedirect, setCookie } from 'h3'
import { beginLinking } from '../../accounts/linking'
import { accountServiceAt, originOf } from '../../accounts/service'
import { apiHandler } from '../../http/apiHandler'
import { linkingCookie } from '../../http/linkingCookie'

/** Sends a person to the account service, to be asked there. */
export default apiHandler(async (event) => {
  const origin = originOf(event)
  const { address, state } = await beginLinking(accountServiceAt(origin), origin)
  setCookie(event, linkingCookie.name, state, linkingCookie.options)
  await sendRedirect(event, address, 303)
})
