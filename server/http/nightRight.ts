import { getCookie, getMethod, getQuery, type H3Event, setCookie } from 'h3'
import { useDatabase } from '../database/connection'
import { mayTendNight } from '../database/nights/nightLinks'

const cookieName = 'green-mantle-night'

/** The parts of a show's night that its right reaches, and by which methods. */
const reached: readonly { path: RegExp; methods: readonly string[] }[] = [
  { path: /^\/phone\/([\w-]{1,40})$/, methods: ['GET', 'HEAD'] },
  { path: /^\/api\/shows\/([\w-]{1,40})\/night(?:\/sheet|\/stream)?$/, methods: ['GET'] },
  { path: /^\/api\/shows\/([\w-]{1,40})\/night\/events$/, methods: ['POST'] },
]

/** The right by which a request passed; undefined for who needs none. */
export const nightRightOf = ({ context }: H3Event): string | undefined =>
  context.nightRight as string | undefined

/**
 * Whether a request may pass by the right to one show's night: a link's, on its first use, or the cookie
 * that it left. It reaches that night and the page that shows it, nothing else.
 */
export async function passesByNightRight(event: H3Event, path: string): Promise<boolean> {
  const kept = getCookie(event, cookieName) ?? ''
  const match = reached
    .filter(({ methods }) => methods.includes(getMethod(event)))
    .map((each) => each.path.exec(path))
    .find(Boolean)
  const showId = match?.[1]
  if (showId === undefined) return false
  const { right } = getQuery(event)
  const given = path.startsWith('/phone/') && typeof right === 'string' ? right : kept
  if (!(await mayTendNight(await useDatabase(), showId, given))) return false
  event.context.nightRight = given
  if (given !== kept)
    setCookie(event, cookieName, given, { httpOnly: true, sameSite: 'strict', path: '/' })
  return true
}
