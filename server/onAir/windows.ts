import { onAirMessage, type OnAirWanted } from '@green-mantle/core/on-air'
import { nanoid } from 'nanoid'
import { senderOf } from '../sender/senders'

/** A ticket is used at once; who waits longer asks for another. */
const ticketMilliseconds = 15_000
const maxTickets = 200
/** How often a window is told what is wanted of it. */
const toldEveryMilliseconds = 200
/** Messages out of form, after which a window is none. */
const maxOutOfForm = 20

export interface WindowSocket {
  send(text: string): void
  close(code: number, reason: string): void
}

interface Ticket {
  showId: string
  at: number
}
interface OpenWindow {
  showId: string
  socket: WindowSocket
  outOfForm: number
  telling: ReturnType<typeof setInterval>
}

const tickets = new Map<string, Ticket>()
/** One a show: both canvases come from the same frame. */
const windows = new Map<string, OpenWindow>()

export const codes = { takenOver: 4001, outOfForm: 4004 } as const

/** Whether a window draws a show already. */
export const hasOnAirWindow = (showId: string): boolean => windows.has(showId)

/** A right to open the one socket of a show's on-air window, once and soon. */
export function onAirTicket(showId: string, now = performance.now()): string {
  for (const [token, { at }] of tickets) if (now - at > ticketMilliseconds) tickets.delete(token)
  const [oldest] = tickets.keys()
  if (tickets.size >= maxTickets && oldest !== undefined) tickets.delete(oldest)
  const token = nanoid(32)
  tickets.set(token, { showId, at: now })
  return token
}

/** The show that a ticket is for; null where there is none, or no more. A ticket is used once. */
export function showOfTicket(token: string, now = performance.now()): string | null {
  const ticket = tickets.get(token)
  tickets.delete(token)
  return ticket && now - ticket.at <= ticketMilliseconds ? ticket.showId : null
}

const wantedBy = (showId: string): OnAirWanted => ({ wanted: senderOf(showId)?.onAir.wanted ?? [] })

/** A window has come; the one that drew the show before is told and closed. */
export function openWindow(showId: string, socket: WindowSocket): OpenWindow {
  const before = windows.get(showId)
  if (before) {
    closeWindow(before)
    before.socket.close(codes.takenOver, 'Another window draws this show now.')
  }
  let told = ''
  const tell = (): void => {
    const words = JSON.stringify(wantedBy(showId))
    if (words !== told) socket.send(words)
    told = words
  }
  const telling = setInterval(tell, toldEveryMilliseconds)
  telling.unref()
  const opened = { showId, socket, outOfForm: 0, telling }
  windows.set(showId, opened)
  tell()
  return opened
}

export function closeWindow(opened: OpenWindow): void {
  clearInterval(opened.telling)
  if (windows.get(opened.showId) !== opened) return
  windows.delete(opened.showId)
  senderOf(opened.showId)?.onAir.left()
}

/** What a window sent. Nothing of it is kept that is out of form, and who sends more of that is shut out. */
export function takeFromWindow(opened: OpenWindow, bytes: Uint8Array): void {
  if (windows.get(opened.showId) !== opened) return
  const message = onAirMessage(bytes)
  if (message) {
    senderOf(opened.showId)?.onAir.take(message)
    return
  }
  opened.outOfForm += 1
  if (opened.outOfForm <= maxOutOfForm) return
  closeWindow(opened)
  opened.socket.close(codes.outOfForm, 'What came is no picture and no sound.')
}

export type { OpenWindow }
