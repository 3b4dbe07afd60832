import { createSocket } from 'node:dgram'
import { once } from 'node:events'
import type { AddressInfo } from 'node:net'
import { ntpUnitsPerSecond } from './ntpTime'

const host = '127.0.0.1'
const senderReport = 200
/** Of a sender's report: where its clock stands, and which time stamp that is (RFC 3550, 6.4.1). */
const at = { type: 1, ntp: 8, timeStamp: 16, end: 20 } as const

/** A port of loopback at which a program sends one stream of RTP, and its reports besides. */
export interface RtpPort {
  readonly port: number
  onPacket(take: (packet: Buffer) => void): void
  /** The NTP time of a time stamp, as the program has it; null until it has said so. */
  ntpOf(timeStamp: number): bigint | null
  close(): void
}

/** What reports apart from what carries picture or sound (RFC 5761, 4). */
const isRtcp = (packet: Buffer): boolean => {
  const type = (packet[at.type] ?? 0) & 0x7f
  return type >= 64 && type <= 95
}

/** Opens one for a stream whose clock ticks at `rateHz`. */
export async function rtpPort(rateHz: number): Promise<RtpPort> {
  const socket = createSocket('udp4')
  socket.bind(0, host)
  await once(socket, 'listening')
  let take: (packet: Buffer) => void = () => {}
  let report: { ntp: bigint; timeStamp: number } | undefined
  socket.on('error', () => {})
  socket.on('message', (packet) => {
    if (!isRtcp(packet)) take(packet)
    else if (packet[at.type] === senderReport && packet.length >= at.end)
      // The latest, since time stamps go round after a day.
      report = {
        ntp: packet.readBigUInt64BE(at.ntp),
        timeStamp: packet.readUInt32BE(at.timeStamp),
      }
  })
  return {
    port: (socket.address() as AddressInfo).port,
    onPacket: (taker) => void (take = taker),
    ntpOf(timeStamp) {
      if (!report) return null
      const seconds = ((timeStamp - report.timeStamp) | 0) / rateHz
      return report.ntp + BigInt(Math.round(seconds * ntpUnitsPerSecond))
    },
    close: () => socket.close(),
  }
}
