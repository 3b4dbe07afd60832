import type { IncomingMessage } from 'node:http'
import { maxMessageBytes } from '@green-mantle/core/on-air'
import { showOfTicket } from './windows'

/** What a socket may send in one message; one that sends more is closed with the code 1009 (RFC 6455, 7.4.1). */
export const socketLimits = { maxPayload: maxMessageBytes } as const

/** A request to become a socket, as the library hands it over. */
export interface SocketRequest {
  url: string
  headers: Headers
  /** What is kept of it until the socket is closed. */
  context: Record<string, unknown>
  _req?: IncomingMessage
}

const ticketIn = /^\/on-air\/([\w-]+)$/

const refusal = (words: string): Response => new Response(words, { status: 403 })

/**
 * Lets a socket be opened by a page of this origin with a ticket that was just asked for, and by nobody else.
 * Throws the answer to all others, before anything is read of what they send.
 */
export function admitSocket(request: SocketRequest): void {
  // Who hangs up while being answered is nobody's trouble.
  request._req?.socket.on('error', () => {})
  const { headers } = request
  const [origin, host] = [headers.get('origin'), headers.get('host')]
  if (origin !== `http://${host}` && origin !== `https://${host}`)
    throw refusal('Its origin is another page.')
  const ticket = ticketIn.exec(pathOf(request.url))?.[1]
  const showId = ticket === undefined ? null : showOfTicket(ticket)
  if (showId === null) throw refusal('This ticket is used or too old.')
  request.context.showId = showId
}

function pathOf(url: string): string {
  try {
    return new URL(url).pathname
  } catch {
    return ''
  }
}
