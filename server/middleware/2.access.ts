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
  type AccessAnswer,
  accessPage,
  accessPageHeaders,
  guessPace,
  isSameSecret,
  notNowPage,
  passFor,
  safeReturn,
} from '../http/access'
import { isFromHere } from '../http/loopback'
import { passesByNightRight } from '../http/nightRight'
import { turnsAtAPace } from '../http/pace'
import { problemFrom } from '../http/problem'
import { useInstallationKey } from '../secrets/installationKey'
import { readSettings } from '../settings'

const cookieName = 'green-mantle-access'
const keptSeconds = 30 * 24 * 3600
/** Guessing is slow. */
const pauseMilliseconds = 500
const retryAfterSeconds = 1 / guessPace.aSecond
const takesATurn = turnsAtAPace(guessPace)

/** What the server asks of its own stand-in, which has tokens of its own. */
const ownQuestions = /^\/stand-ins\/accounts\/(token|revoke|account)$/

type Compared = 'right' | 'wrong' | 'too many'

/** Whether a token is the one that is wanted; past the pace of its address it is not even looked at. */
async function compare(event: H3Event, token: string, accessToken: string): Promise<Compared> {
  const address = event.node.req.socket.remoteAddress ?? ''
  // A turn is taken before anything is waited for, so that many at once get no further than one by one.
  if (!takesATurn(address)) return 'too many'
  if (isSameSecret(token, accessToken)) {
    takesATurn(address, -1)
    return 'right'
  }
  await new Promise((resolve) => setTimeout(resolve, pauseMilliseconds))
  return 'wrong'
}

async function hasPass(event: H3Event, accessToken: string): Promise<boolean> {
  const pass = getCookie(event, cookieName)
  if (pass === undefined) return false
  return isSameSecret(pass, passFor((await useInstallationKey()).bytes, accessToken))
}

/** What the form of the access page brought. */
async function signIn(event: H3Event, accessToken: string): Promise<unknown> {
  const form = await readForm(event)
  const returnTo = form.return ?? '/'
  const compared = await compare(event, form.token ?? '', accessToken)
  if (compared !== 'right') return ask(event, returnTo, compared)
  setCookie(event, cookieName, passFor((await useInstallationKey()).bytes, accessToken), {
    httpOnly: true,
    sameSite: 'lax',
    path: '/',
    maxAge: keptSeconds,
    secure: getRequestURL(event).protocol === 'https:',
  })
  return sendRedirect(event, safeReturn(returnTo), 303)
}

const statusOf: Readonly<Record<AccessAnswer, number>> = { asked: 401, wrong: 403, 'too many': 429 }

function ask(event: H3Event, returnTo: string, answer: AccessAnswer): string {
  setResponseStatus(event, statusOf[answer])
  setResponseHeaders(event, accessPageHeaders)
  if (answer === 'too many') setResponseHeaders(event, { 'retry-after': retryAfterSeconds })
  return accessPage(safeReturn(returnTo), answer)
}

function refuse(
  event: H3Event,
  details: { status: number; title: string; detail: string },
): string {
  setResponseStatus(event, details.status)
  setResponseHeaders(event, { 'content-type': 'application/problem+json' })
  return JSON.stringify({ type: 'about:blank', ...details })
}

function refuseMore(event: H3Event): string {
  setResponseHeaders(event, { 'retry-after': retryAfterSeconds })
  return refuse(event, {
    status: 429,
    title: 'Too many wrong access tokens came from this address',
    detail: 'Wait a few seconds before the next try. Nothing was changed.',
  })
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
  if (pathname === '/access')
    return getMethod(event) === 'POST'
      ? signIn(event, accessToken)
      : ask(event, String(getQuery(event).return ?? '/'), 'asked')
  if (ownQuestions.test(pathname) && isFromHere(event)) return undefined
  const bearer = /^Bearer (.+)$/.exec(getRequestHeader(event, 'authorization') ?? '')?.[1]
  const compared = bearer === undefined ? 'wrong' : await compare(event, bearer, accessToken)
  if (compared === 'right') return undefined
  if (compared === 'too many') return refuseMore(event)
  try {
    if (await hasPass(event, accessToken)) return undefined
    if (await passesByNightRight(event, pathname)) return undefined
  } catch (error) {
    return answerNotNow(event, pathname, error)
  }
  if (!pathname.startsWith('/api/'))
    return sendRedirect(event, `/access?return=${encodeURIComponent(`${pathname}${search}`)}`, 303)
  return refuse(event, {
    status: 401,
    title: 'The access token of this installation is wanted',
    detail: 'Open the page once and give it there. Nothing was changed.',
  })
})
