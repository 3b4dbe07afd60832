import { createSocket, type Socket } from 'node:dgram'
import {
  beginsPicture,
  isStereoOpus,
  soundBeginsLaterSeconds,
  type StreamClock,
} from '@green-mantle/core/arrival'
import { clockRatesHz, type ClockReport, type MediaKind, type WhipPeer } from './whipPeer'

const host = '127.0.0.1'
/** Two for the picture and two for the sound, of which the second is RTCP's (RFC 3550, section 11). */
export const portsOfSession = 4
const offsets = { video: 0, audio: 2 } as const satisfies Record<MediaKind, number>
/** What comes before the program that reads it listens is held, and no more of it. */
const maxHeldPackets = 4000
const readerListensWithinMilliseconds = 8000
const askedEveryMilliseconds = 50
const settlesWithinSeconds = 60

/** What the program is told that comes by which number, whatever number it was agreed by with who sends. */
const payloadTypes = { video: 96, audio: 97 } as const satisfies Record<MediaKind, number>
const payloadTypeByte = 1
const markerBit = 0x80

/** A packet as the program is told to expect it. */
function asTold(kind: MediaKind, packet: Buffer): Buffer {
  packet[payloadTypeByte] = ((packet[payloadTypeByte] ?? 0) & markerBit) | payloadTypes[kind]
  return packet
}

/** How the program that reads is told what comes to it (RFC 8866), at ports from `port` on. */
export const sessionDescription = (
  port: number,
  { hasSound, parameterSets }: Pick<WhipPeer, 'hasSound' | 'parameterSets'>,
): string =>
  [
    ...['v=0', `o=- 0 0 IN IP4 ${host}`, 's=-', `c=IN IP4 ${host}`, 't=0 0'],
    `m=video ${port + offsets.video} RTP/AVP ${payloadTypes.video}`,
    `a=rtpmap:${payloadTypes.video} H264/${clockRatesHz.video}`,
    `a=fmtp:${payloadTypes.video} packetization-mode=1${parameterSets === '' ? '' : `;sprop-parameter-sets=${parameterSets}`}`,
    ...(hasSound
      ? [
          `m=audio ${port + offsets.audio} RTP/AVP ${payloadTypes.audio}`,
          `a=rtpmap:${payloadTypes.audio} opus/${clockRatesHz.audio}/2`,
        ]
      : []),
    '',
  ].join('\r\n')

interface Packet {
  timeStamp: number
  payload: Buffer
  /** The whole of it. */
  bytes: () => Buffer
}

/** Hands one session's packets to the program that reads them, from a place on where it can begin. */
export interface SessionPackets {
  take(kind: MediaKind, packet: Packet): void
  clockReport(kind: MediaKind, report: ClockReport): void
  /** What the reading program is not told of the sound. */
  sound(): { beginsLaterSeconds: number; channels: number }
  /** Resolves when the program listens and has what was held; false where it never did. */
  handOn(hasSound: boolean, signal: AbortSignal): Promise<boolean>
  close(): void
}

interface Line {
  socket: Socket
  /** Whether somebody listens there, waited for. */
  isHeard: (signal: AbortSignal) => Promise<boolean>
}

function lineTo(port: number): Line {
  const socket = createSocket('udp4')
  // The system says of the packet before whether nobody took it.
  let isRefused = false
  socket.on('error', () => (isRefused = true))
  const connected = new Promise<void>((resolve) => socket.connect(port, host, resolve))
  return {
    socket,
    async isHeard(signal) {
      await connected
      const until = performance.now() + readerListensWithinMilliseconds
      while (performance.now() < until && !signal.aborted) {
        isRefused = false
        // Too short to be a packet of RTP.
        socket.send(Buffer.of(0))
        await new Promise((resolve) => setTimeout(resolve, askedEveryMilliseconds))
        if (!isRefused) return true
      }
      return false
    },
  }
}

const isKnown = (clock: Partial<StreamClock>): clock is StreamClock =>
  clock.report !== undefined && clock.firstTimeStamp !== undefined

/** The packets of one session, to ports of loopback from `port` on. */
export function sessionPackets(port: number): SessionPackets {
  const lines: Record<MediaKind, Line> = {
    video: lineTo(port + offsets.video),
    audio: lineTo(port + offsets.audio),
  }
  const clocks: Record<MediaKind, Partial<StreamClock> & { heardFromSeconds?: number }> = {
    video: { rateHz: clockRatesHz.video },
    audio: { rateHz: clockRatesHz.audio },
  }
  const held: { kind: MediaKind; packet: Buffer }[] = []
  let hasBegun = false
  let isHeard = false
  let isClosed = false
  let isStereo = false
  return {
    take(kind, { timeStamp, payload, bytes }) {
      if (kind === 'video' && !hasBegun) hasBegun = beginsPicture(payload)
      if (!hasBegun || isClosed) return
      if (kind === 'audio') isStereo ||= isStereoOpus(payload)
      clocks[kind].firstTimeStamp ??= timeStamp
      const packet = asTold(kind, bytes())
      if (isHeard) lines[kind].socket.send(packet)
      else if (held.length < maxHeldPackets) held.push({ kind, packet })
    },
    clockReport(kind, report) {
      // The latest of the first minute: the very first may tell of a burst with which a sender began, and
      // after hours time stamps have gone round.
      const clock = clocks[kind]
      clock.heardFromSeconds ??= report.atSeconds
      if (report.atSeconds - clock.heardFromSeconds < settlesWithinSeconds) clock.report = report
    },
    sound: () => ({
      beginsLaterSeconds:
        isKnown(clocks.video) && isKnown(clocks.audio)
          ? soundBeginsLaterSeconds(clocks.video, clocks.audio)
          : 0,
      channels: isStereo ? 2 : 1,
    }),
    async handOn(hasSound, signal) {
      const heard = await Promise.all([
        lines.video.isHeard(signal),
        hasSound ? lines.audio.isHeard(signal) : true,
      ])
      if (isClosed || heard.includes(false)) return false
      isHeard = true
      for (const { kind, packet } of held.splice(0)) lines[kind].socket.send(packet)
      return true
    },
    close() {
      isClosed = true
      for (const { socket } of Object.values(lines)) socket.close()
    },
  }
}
