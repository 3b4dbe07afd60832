import { createHmac, randomBytes } from 'node:crypto'
import type { Greeting, Knock } from './datagramFront'

/**
 * What is read of SRT's handshake, and the answer that refuses one: the Internet-Draft "The SRT
 * Protocol", sections 3.2.1 and 4.3 (from memory; held against the library that FFmpeg brings by the
 * tests). No kept library for Node reads it.
 */
export type SrtHandshake =
  | { phase: 'induction' }
  /** `streamId` is empty where the caller names none. */
  | { phase: 'conclusion'; streamId: string; cookie: number }

const at = {
  ...{ destination: 12, version: 16, encryption: 20, extension: 22, type: 36, socket: 40 },
  ...{ cookie: 44, extensions: 64 },
} as const
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
  const cookie = datagram.readUInt32BE(at.cookie)
  for (let place: number = at.extensions; place + 4 <= datagram.length;) {
    const end = place + 4 + datagram.readUInt16BE(place + 2) * 4
    if (datagram.readUInt16BE(place) === streamIdExtension && end <= datagram.length)
      return { phase: 'conclusion', streamId: textOf(datagram.subarray(place + 4, end)), cookie }
    place = end
  }
  return { phase: 'conclusion', streamId: '', cookie }
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

/** Version 5 with the mark by which a caller knows that SRT is spoken. */
const spoken = { version: 5, mark: 0x4a17 } as const
/** What a caller says first: version 4, of datagrams. */
const first = { version: 4, kind: 2 } as const

/** A cookie is good for the stretch of time in which it was given, and the next. */
const cookieMilliseconds = 60_000
const secret = randomBytes(32)

const cookieOf = (caller: string, stretch: number): number =>
  createHmac('sha256', secret).update(`${caller} ${stretch}`).digest().readUInt32BE(0)

const stretchNow = (): number => Math.floor(performance.now() / cookieMilliseconds)

/** Whether a cookie was given to this caller: only who is where it says it is has it. */
const isGiven = (caller: string, cookie: number): boolean =>
  [0, 1].some((ago) => cookie === cookieOf(caller, stretchNow() - ago))

/** What answers a caller's first word: its own cookie, of which nothing is kept here. */
function inductionAnswer(induction: Buffer, caller: string): Buffer {
  const answer = Buffer.from(induction.subarray(0, at.extensions))
  answer.writeUInt32BE(induction.readUInt32BE(at.socket), at.destination)
  answer.writeUInt32BE(spoken.version, at.version)
  answer.writeUInt16BE(0, at.encryption)
  answer.writeUInt16BE(spoken.mark, at.extension)
  answer.writeUInt32BE(cookieOf(caller, stretchNow()), at.cookie)
  return answer
}

/** The program behind the door has to be greeted as by the caller itself; its cookie goes into what the caller says next. */
function greetingFor(conclusion: Buffer): Greeting {
  const induction = Buffer.from(conclusion.subarray(0, at.extensions))
  induction.writeUInt32BE(first.version, at.version)
  induction.writeUInt16BE(0, at.encryption)
  induction.writeUInt16BE(first.kind, at.extension)
  induction.writeUInt32BE(types.induction, at.type)
  induction.writeUInt32BE(0, at.cookie)
  return {
    first: induction,
    then(answer) {
      if (srtHandshakeOf(answer)?.phase !== 'induction') return null
      const next = Buffer.from(conclusion)
      next.writeUInt32BE(answer.readUInt32BE(at.cookie), at.cookie)
      return next
    },
  }
}

/**
 * What a datagram says to a door: a caller's first word is answered without anything being kept of it; who
 * comes back with the cookie is let in where `refusal` says nothing against its stream ID.
 */
export function srtKnock(
  datagram: Buffer,
  caller: string,
  refusal: (streamId: string) => string | null,
): Knock {
  const handshake = srtHandshakeOf(datagram)
  if (!handshake) return 'none'
  if (handshake.phase === 'induction') return { answer: inductionAnswer(datagram, caller) }
  if (!isGiven(caller, handshake.cookie)) return 'none'
  if (refusal(handshake.streamId) !== null) return { answer: srtRefusalOf(datagram) }
  return { letInAs: handshake.streamId, greeting: greetingFor(datagram) }
}
