import { onAirBytes } from '@green-mantle/core/on-air'
import { describe, expect, it } from 'vitest'
import {
  closeWindow,
  codes,
  hasOnAirWindow,
  onAirTicket,
  openWindow,
  showOfTicket,
  takeFromWindow,
} from './windows'

const socket = () => {
  const [said, closed]: [string[], number[]] = [[], []]
  return {
    ...{ said, closed },
    send: (text: string) => void said.push(text),
    close: (code: number) => void closed.push(code),
  }
}

describe('the right to draw a show', () => {
  it('is used once, soon, and for its own show', () => {
    const ticket = onAirTicket('show', 0)
    expect(showOfTicket('another', 0)).toBeNull()
    expect(showOfTicket(ticket, 1000)).toBe('show')
    expect(showOfTicket(ticket, 1000)).toBeNull()
    expect(showOfTicket(onAirTicket('show', 0), 60_000)).toBeNull()
  })

  it('is not piled up: the oldest tickets go', () => {
    const first = onAirTicket('show', 0)
    for (let count = 0; count < 300; count += 1) onAirTicket('show', 0)
    expect(showOfTicket(first, 0)).toBeNull()
  })
})

describe('on-air windows', () => {
  it('are one a show: the one before is told, and what it still sends is not taken', () => {
    const [first, second, other] = [socket(), socket(), socket()]
    const before = openWindow('show', first)
    const elsewhere = openWindow('other show', other)
    expect(first.said).toEqual(['{"wanted":[]}'])
    const after = openWindow('show', second)
    expect(first.closed).toEqual([codes.takenOver])
    expect(other.closed).toEqual([])
    // The one that was closed ends nothing of the one that came.
    closeWindow(before)
    expect(hasOnAirWindow('show')).toBe(true)
    closeWindow(after)
    closeWindow(elsewhere)
    expect(hasOnAirWindow('show')).toBe(false)
  })

  it('are shut out where they send what is no picture and no sound', () => {
    const own = socket()
    const opened = openWindow('show', own)
    const good = onAirBytes({
      ...{ kind: 'sound', mix: 'live', firstSample: 0 },
      bytes: new Uint8Array(4),
    })
    for (let count = 0; count < 100; count += 1) takeFromWindow(opened, good)
    expect(own.closed).toEqual([])
    for (let count = 0; count < 100; count += 1) takeFromWindow(opened, Uint8Array.of(9, 9, 9))
    expect(own.closed).toEqual([codes.outOfForm])
    expect(hasOnAirWindow('show')).toBe(false)
  })
})
