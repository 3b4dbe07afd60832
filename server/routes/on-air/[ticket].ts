import { defineWebSocketHandler } from 'h3'
import { closeWindow, type OpenWindow, openWindow, takeFromWindow } from '../../onAir/windows'

const opened = new Map<string, OpenWindow>()

/** The one socket of an on-air window; whoever comes here was admitted for a show (`server/onAir/sockets.ts`). */
export default defineWebSocketHandler({
  open(peer) {
    const { showId } = peer.context as { showId: string }
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
