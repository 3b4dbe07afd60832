import { describe, expect, it } from 'vitest'
import { admitSocket, type SocketRequest } from './sockets'
import { onAirTicket } from './windows'

const asked = (path: string, headers: Record<string, string>): SocketRequest => ({
  url: `http://here.example:3000${path}`,
  headers: new Headers({ host: 'here.example:3000', ...headers }),
  context: {},
})
const origin = 'http://here.example:3000'
/** The status that a request is refused with; null where it is let in. */
function refused(request: SocketRequest): number | null {
  try {
    admitSocket(request)
    return null
  } catch (answer) {
    return (answer as Response).status
  }
}

describe('a socket', () => {
  it('is opened with a ticket by a page of the same origin, once, and is for that show', () => {
    const request = asked(`/on-air/${onAirTicket('show')}`, { origin })
    expect(refused(request)).toBeNull()
    expect(request.context).toEqual({ showId: 'show' })
    expect(refused(asked(new URL(request.url).pathname, { origin }))).toBe(403)
  })

  it.each([
    ['another origin', { origin: 'http://elsewhere.example' }],
    ['no origin', {}],
    ['a null origin', { origin: 'null' }],
  ])('is opened by nobody from %s, and the ticket is still good', (_, headers) => {
    const path = `/on-air/${onAirTicket('show')}`
    expect(refused(asked(path, headers as Record<string, string>))).toBe(403)
    expect(refused(asked(path, { origin }))).toBeNull()
  })

  it.each(['/', '/api/shows', '/on-air', '/on-air/', '/on-air/nobody', '/shows/a/on-air', '//'])(
    'is opened nowhere else: %s',
    (path) => expect(refused(asked(path, { origin }))).toBe(403),
  )

  it.each(['http://', 'http://[', ''])('of an address that is none is refused: %s', (url) =>
    expect(refused({ ...asked('/', { origin }), url })).toBe(403),
  )
})
