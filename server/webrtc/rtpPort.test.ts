import { createSocket } from 'node:dgram'
import { afterEach, expect, it, vi } from 'vitest'
import { ntpOfMilliseconds } from './ntpTime'
import { type RtpPort, rtpPort } from './rtpPort'

const ports: RtpPort[] = []
const sender = createSocket('udp4')
afterEach(() => {
  for (const port of ports.splice(0)) port.close()
})

/** RFC 3550, 6.4.1: version, type 200, the sender's source, its clock and the time stamp. */
function senderReport(ntp: bigint, timeStamp: number): Buffer {
  const packet = Buffer.alloc(28)
  packet.writeUInt16BE(0x80c8, 0)
  packet.writeBigUInt64BE(ntp, 8)
  packet.writeUInt32BE(timeStamp, 16)
  return packet
}
const media = Buffer.from([0x80, 97, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0xfc])

it('a moment has the NTP time that RFC 5905 gives it', () => {
  // Figure 4: 1 January 1970 is second 2,208,988,800 of NTP; half a second is half of the lower 32 bits.
  expect(ntpOfMilliseconds(0)).toBe(2_208_988_800n << 32n)
  expect(ntpOfMilliseconds(1500) - ntpOfMilliseconds(1000)).toBe(2n ** 31n)
})

it('packets are handed on, and time stamps have the time that the last report gives them', async () => {
  const port = await rtpPort(48_000)
  ports.push(port)
  const taken: Buffer[] = []
  port.onPacket((packet) => taken.push(packet))
  expect(port.ntpOf(0)).toBeNull()
  const began = ntpOfMilliseconds(1_000_000)
  sender.send(senderReport(began, 2 ** 32 - 48_000), port.port, '127.0.0.1')
  sender.send(media, port.port, '127.0.0.1')
  await vi.waitFor(() => expect(taken).toEqual([media]))
  // Two seconds later, though the stamps have gone round.
  expect(port.ntpOf(48_000)! - began).toBe(2n << 32n)
  // After a day they have gone round again, and only the last report knows.
  const later = ntpOfMilliseconds(1_000_000 + 86_400_000)
  sender.send(senderReport(later, 7), port.port, '127.0.0.1')
  await vi.waitFor(() => expect(port.ntpOf(7)).toBe(later))
  expect(port.ntpOf(48_007)! - later).toBe(1n << 32n)
})
