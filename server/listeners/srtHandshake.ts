import type { Knock } from './datagramFront'

/**
 * What is read of SRT's handshake, and the answer that refuses one: the Internet-Draft "The SRT
 * Protocol", sections 3.2.1 and 4.3 (from memory; held against the library that FFmpeg brings by the
 * tests). No kept library for Node reads it.
 */
export type SrtHandshake =
  | { phase: 'induction' }
  /** `streamId` is empty where the caller names none. */
  | { phase: 'conclusion'; streamId: string }

const at = { destination: 12, type: 36, socket: 40, extensions: 64 } as const
const controlHandshake = 0x80_00_00_00
const types = { induction: 1, conclusion: 0xff_ff_ff_ff } as const
const streamIdExtension = 5
/** The library's "unauthorized", among what it calls failures. */
const refusedType = 1000 + 1401

/** Text stands in words of 32 bits, each with its bytes the other way round. */
function textOf(words: Buffer): string {
  const bytes = Buffer.from(words)
  return bytes.swap32().toString('utf8').replace(/\0+$/, '')
}

/** The handshake that a caller's datagram is; null where it is none. */
export function srtHandshakeOf(datagram: Buffer): SrtHandshake | null {
  if (datagram.length < at.extensions || datagram.readUInt32BE(0) !== controlHandshake) return null
  const type = datagram.readUInt32BE(at.type)
  if (type === types.induction) return { phase: 'induction' }
  if (type !== types.conclusion) return null
  for (let place: number = at.extensions; place + 4 <= datagram.length;) {
    const end = place + 4 + datagram.readUInt16BE(place + 2) * 4
    if (datagram.readUInt16BE(place) === streamIdExtension && end <= datagram.length)
      return { phase: 'conclusion', streamId: textOf(datagram.subarray(place + 4, end)) }
    place = end
  }
  return { phase: 'conclusion', streamId: '' }
}

/** What tells the caller of a handshake that it is not taken. */
export function srtRefusalOf(handshake: Buffer): Buffer {
  const answer = Buffer.from(handshake.subarray(0, at.extensions))
  answer.writeUInt32BE(handshake.readUInt32BE(at.socket), at.destination)
  answer.writeUInt32BE(refusedType, at.type)
  return answer
}

/** The first bit tells what controls from what carries data. */
export const isSrtMedia = (datagram: Buffer): boolean => ((datagram[0] ?? 0) & 0x80) === 0

/** What a datagram says to a door: `refusal` says why a caller is not let in, by its stream ID once it has said that. */
export function srtKnock(
  datagram: Buffer,
  refusal: (streamId: string | null) => string | null,
): Knock {
  const handshake = srtHandshakeOf(datagram)
  if (!handshake) return 'none'
  const streamId = handshake.phase === 'conclusion' ? handshake.streamId : null
  if (refusal(streamId) !== null) return { refusal: srtRefusalOf(datagram) }
  return streamId === null ? 'asks' : { letInAs: streamId }
}
