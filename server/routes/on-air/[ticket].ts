import { defineWebSocketHandler } from 'h3'
import {
  closeWindow,
  codes,
  type OpenWindow,
  openWindow,
  showOfTicket,
  takeFromWindow,
} from '../../onAir/windows'

const opened = new Map<string, OpenWindow>()
const ticketOf = (url: string): string =>
  new URL(url, 'http://localhost').pathname.split('/').at(-1) ?? ''

/**
 * The one socket of an on-air window. Who may open it has asked for a ticket, which says for which show; a
 * page of another origin is refused before that is looked at.
 */
export default defineWebSocketHandler({
  upgrade(request) {
    const { headers } = request as unknown as { headers: Headers }
    const [origin, host] = [headers.get('origin'), headers.get('host')]
    if (origin !== `http://${host}` && origin !== `https://${host}`)
      throw new Response('Its origin is another page.', { status: 403 })
  },
  open(peer) {
    const showId = showOfTicket(ticketOf(peer.request?.url ?? ''))
    if (showId === null) return peer.close(codes.noTicket, 'This ticket is used or too old.')
    opened.set(
      peer.id,
      openWindow(showId, {
        send: (text) => void peer.send(text),
        close: (code, reason) => peer.close(code, reason),
      }),
    )
  },
  message(peer, message) {
    const window = opened.get(peer.id)
    if (window) takeFromWindow(window, message.uint8Array())
  },
  close(peer) {
    const window = opened.get(peer.id)
    opened.delete(peer.id)
    if (window) closeWindow(window)
  },
})
