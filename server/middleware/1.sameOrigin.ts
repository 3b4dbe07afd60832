import { IncomingMessage } from 'node:http'
import {
  defineEventHandler,
  getRequestHeader,
  type H3Event,
  setResponseHeader,
  setResponseStatus,
} from 'h3'
import { isFromHere } from '../http/loopback'
import { readSettings } from '../settings'

const loopbackNames = new Set(['127.0.0.1', 'localhost', '[::1]'])

/** A host header as name and port; without one it is that of plain HTTP. */
function partsOf(host: string): { name: string; port: string } {
  const [, name = '', port = '80'] = /^(.*?)(?::(\d+))?$/.exec(host) ?? []
  return { name, port }
}

function isOurHostName(event: H3Event, host: string): boolean {
  const { allowedHosts, ownOrigin } = readSettings()
  const { name, port } = partsOf(host)
  // Also where it was allowed by name: bound beyond loopback, the start allows one of these itself.
  if (!loopbackNames.has(name)) return allowedHosts.includes(host)
  const isOurPort = port === (new URL(ownOrigin).port || '80') || allowedHosts.includes(host)
  return isOurPort && isFromHere(event)
}

/**
 * A header that no form, no redirect and no address that somebody names brings along; from a page of
 * another origin it would need a permission that is never given.
 */
const meantHeader = 'x-green-mantle'
const changes = (event: H3Event): boolean => !['GET', 'HEAD', 'OPTIONS'].includes(event.method)

/**
 * Refuses requests that were addressed to another name (DNS rebinding) or sent by a page of another
 * origin: the application is bound to loopback, but any page in the user's browser can reach that.
 */
export default defineEventHandler((event) => {
  // The server asks itself for the page that says what went wrong: such a request came over no connection.
  if (!(event.node.req instanceof IncomingMessage)) return undefined
  const host = (getRequestHeader(event, 'host') ?? '').toLowerCase()
  const origin = getRequestHeader(event, 'origin')
  const isOurHost = isOurHostName(event, host)
  const isOurOrigin =
    origin === undefined || origin === `http://${host}` || origin === `https://${host}`
  const isForeignSite = getRequestHeader(event, 'sec-fetch-site') === 'cross-site'
  const isApi = event.path.startsWith('/api/')
  const isOurs = isOurHost && isOurOrigin && !(isApi && isForeignSite)
  const isMeant = !isApi || !changes(event) || getRequestHeader(event, meantHeader) !== undefined
  if (isOurs && isMeant) return undefined
  setResponseStatus(event, 403)
  setResponseHeader(event, 'content-type', 'application/problem+json')
  return JSON.stringify({
    type: 'about:blank',
    status: 403,
    title: 'This request does not come from the application itself',
    detail: isOurs
      ? `What changes something has to say so by the header ${meantHeader}, whatever its value. Nothing was changed.`
      : isOurHost
        ? 'Its origin is another page.'
        : 'Its host name is not one of ours; GREEN_MANTLE_ALLOWED_HOSTS names further ones.',
  })
})
