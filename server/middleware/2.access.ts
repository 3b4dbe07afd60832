import {
  defineEventHandler,
  getCookie,
  getMethod,
  getQuery,
  getRequestHeader,
  getRequestURL,
  type H3Event,
  sendRedirect,
  setCookie,
  setResponseHeaders,
  setResponseStatus,
} from 'h3'
import { readForm } from '../accounts/standIn/readForm'
import {
  accessPage,
  accessPageHeaders,
  isSameSecret,
  notNowPage,
  passFor,
  safeReturn,
} from '../http/access'
import { isFromHere } from '../http/loopback'
import { passesByNightRight } from '../http/nightRight'
import { problemFrom } from '../http/problem'
import { readSettings } from '../settings'

const cookieName = 'green-mantle-access'
const keptSeconds = 30 * 24 * 3600
/** Guessing is slow. */
const pauseMilliseconds = 500

/** What the server asks of its own stand-in, which has tokens of its own. */
const ownQuestions = /^\/stand-ins\/accounts\/(token|revoke|account)$/

function mayPass(event: H3Event, accessToken: string, path: string): boolean {
  if (ownQuestions.test(path) && isFromHere(event)) return true
  const bearer = /^Bearer (.+)$/.exec(getRequestHeader(event, 'authorization') ?? '')?.[1]
  if (bearer !== undefined && isSameSecret(bearer, accessToken)) return true
  return isSameSecret(getCookie(event, cookieName) ?? '', passFor(accessToken))
}

function ask(event: H3Event, returnTo: string, isWrong = false): string {
  setResponseStatus(event, isWrong ? 403 : 401)
  setResponseHeaders(event, accessPageHeaders)
  return accessPage(safeReturn(returnTo), isWrong)
}

/** Whether somebody has a right cannot be known where the database is away: neither yes nor no is said. */
function answerNotNow(event: H3Event, path: string, error: unknown): string {
  const { details, headers } = problemFrom(error)
  setResponseStatus(event, details.status)
  setResponseHeaders(event, { 'retry-after': 3, ...headers })
  if (!path.startsWith('/api/')) {
    setResponseHeaders(event, { ...accessPageHeaders, 'retry-after': 3 })
    return notNowPage
  }
  setResponseHeaders(event, { 'content-type': 'application/problem+json' })
  return JSON.stringify({ type: 'about:blank', ...details })
}

/**
 * Where an access token is set nothing answers but the page that asks for it, once in every browser.
 */
export default defineEventHandler(async (event) => {
  const { accessToken } = readSettings()
  if (accessToken === null) return undefined
  const { pathname, search } = getRequestURL(event)
  if (pathname === '/access') {
    if (getMethod(event) !== 'POST') return ask(event, String(getQuery(event).return ?? '/'))
    const form = await readForm(event)
    if (!isSameSecret(form.token ?? '', accessToken)) {
      await new Promise((resolve) => setTimeout(resolve, pauseMilliseconds))
      return ask(event, form.return ?? '/', true)
    }
    setCookie(event, cookieName, passFor(accessToken), {
      httpOnly: true,
      sameSite: 'lax',
      path: '/',
      maxAge: keptSeconds,
      secure: getRequestURL(event).protocol === 'https:',
    })
    return sendRedirect(event, safeReturn(form.return ?? '/'), 303)
  }
  if (mayPass(event, accessToken, pathname)) return undefined
  try {
    if (await passesByNightRight(event, pathname)) return undefined
  } catch (error) {
    return answerNotNow(event, pathname, error)
  }
  if (!pathname.startsWith('/api/'))
    return sendRedirect(event, `/access?return=${encodeURIComponent(`${pathname}${search}`)}`, 303)
  setResponseStatus(event, 401)
  setResponseHeaders(event, { 'content-type': 'application/problem+json' })
  return JSON.stringify({
    type: 'about:blank',
    status: 401,
    title: 'The access token of this installation is wanted',
    detail: 'Open the page once and give it there. Nothing was changed.',
  })
})
