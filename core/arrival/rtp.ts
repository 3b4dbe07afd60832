/*
 * What is read of RTP packets of H.264 and Opus before a decoder gets them.
 */

/** Types of what an H.264 payload carries (ITU-T H.264, table 7-1; RFC 6184, table 1). */
const unit = { keyframe: 5, sequenceParameters: 7, aggregation: 24, fragment: 28 } as const
const typeOf = (byte: number | undefined): number => (byte ?? 0) & 0x1f
const begins = (type: number): boolean => type === unit.keyframe || type === unit.sequenceParameters

/**
 * Whether a decoder can begin at an H.264 payload: it carries a keyframe, the beginning of one, or the
 * parameters that stand before it (RFC 6184, 5.6 to 5.8). A damaged one is none.
 */
export function beginsPicture(payload: Uint8Array): boolean {
  const type = typeOf(payload[0])
  if (type === unit.fragment) {
    const isFirst = ((payload[1] ?? 0) & 0x80) !== 0
    return isFirst && begins(typeOf(payload[1]))
  }
  if (type !== unit.aggregation) return begins(type)
  for (let at = 1; at + 2 < payload.length;) {
    if (begins(typeOf(payload[at + 2]))) return true
    at += 2 + (((payload[at] ?? 0) << 8) | (payload[at + 1] ?? 0))
  }
  return false
}

/** Whether an Opus packet is of two channels: the third bit from the end of its first byte (RFC 6716, 3.1). */
export const isStereoOpus = (payload: Uint8Array): boolean => ((payload[0] ?? 0) & 0x04) !== 0

/** Of one stream: the time stamp at which it begins, and at which moment of its sender's clock it was at another (RFC 3550, 6.4.1). */
export interface StreamClock {
  firstTimeStamp: number
  report: { atSeconds: number; timeStamp: number }
  rateHz: number
}

/** Time stamps go round after 32 bits. */
const beganAtSeconds = ({ firstTimeStamp, report, rateHz }: StreamClock): number =>
  report.atSeconds + ((firstTimeStamp - report.timeStamp) | 0) / rateHz

/** By how much the sound begins later than the picture, on their sender's clock. */
export const soundBeginsLaterSeconds = (picture: StreamClock, sound: StreamClock): number =>
  beganAtSeconds(sound) - beganAtSeconds(picture)
