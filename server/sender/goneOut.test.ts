import { expect, it } from 'vitest'
import { GoneOut } from './goneOut'

it('a frame has gone out once all its bytes have; nothing else ends a standstill', () => {
  let now = 0
  const line = { sentBytes: 0, waitingBytes: 0 }
  const goneOut = new GoneOut(() => now)
  expect(goneOut.stillSeconds()).toBe(0)
  line.sentBytes = 1000
  goneOut.handedOver(line)
  now = 1000
  expect(goneOut.stillSeconds()).toBe(1)
  // The line stands still: what is handed over waits.
  for (let frame = 0; frame < 10; frame += 1) {
    line.waitingBytes += 500
    goneOut.handedOver(line)
  }
  now = 18_000
  expect(goneOut.stillSeconds()).toBe(18)
  // Half a frame is none.
  Object.assign(line, { sentBytes: 1400, waitingBytes: 4600 })
  expect(goneOut.stillSeconds()).toBe(18)
  Object.assign(line, { sentBytes: 1500, waitingBytes: 4500 })
  expect(goneOut.stillSeconds()).toBe(0)
  now = 20_000
  // Another connection begins with nothing; the picture has stood still all the same.
  goneOut.connected()
  expect(goneOut.stillSeconds()).toBe(2)
  goneOut.clear()
  expect(goneOut.stillSeconds()).toBe(0)
})
