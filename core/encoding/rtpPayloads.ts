/*
 * H.264 as it lies in a file (ISO/IEC 14496-15), taken apart into payloads of RTP (RFC 6184).
 */

/** What a decoder needs before it begins, and how the units after it are told apart. */
export interface AvcConfiguration {
  /** Sequence and picture parameter sets, in their order. */
  parameterSets: Uint8Array[]
  /** How many bytes say how long a unit is: 1, 2 or 4. */
  lengthBytes: number
}

const numberAt = (bytes: Uint8Array, at: number, count: number): number => {
  let value = 0
  for (let index = 0; index < count; index += 1) value = value * 256 + (bytes[at + index] ?? 0)
  return value
}

/** Reads an AVC decoder configuration record (ISO/IEC 14496-15, 5.3.3.1); null where it is damaged. */
export function avcConfigurationOf(record: Uint8Array): AvcConfiguration | null {
  const lengthBytes = ((record[4] ?? 0) & 3) + 1
  const parameterSets: Uint8Array[] = []
  let at = 5
  for (const countMask of [0x1f, 0xff]) {
    const count = (record[at] ?? 0) & countMask
    at += 1
    for (let index = 0; index < count; index += 1) {
      const end = at + 2 + numberAt(record, at, 2)
      if (at + 2 > record.length || end > record.length) return null
      parameterSets.push(record.subarray(at + 2, end))
      at = end
    }
  }
  return parameterSets.length > 0 && lengthBytes !== 3 ? { parameterSets, lengthBytes } : null
}

/** The units of one frame, each after its length; what is cut off at the end is left out. */
export function unitsOfFrame(frame: Uint8Array, lengthBytes: number): Uint8Array[] {
  const units: Uint8Array[] = []
  for (let at = 0; at + lengthBytes <= frame.length;) {
    const end = at + lengthBytes + numberAt(frame, at, lengthBytes)
    if (end > frame.length) break
    if (end > at + lengthBytes) units.push(frame.subarray(at + lengthBytes, end))
    at = end
  }
  return units
}

const fragmentType = 28
const [startBit, endBit] = [0x80, 0x40]
const fragmentHeaderBytes = 2

/** One unit in pieces of at most so many bytes (RFC 6184, 5.8), or as it is where it fits (5.6). */
function payloadsOfUnit(unit: Uint8Array, maxBytes: number): Uint8Array[] {
  if (unit.length <= maxBytes) return [unit]
  const head = unit[0] ?? 0
  const indicator = (head & 0xe0) | fragmentType
  const pieces: Uint8Array[] = []
  const room = maxBytes - fragmentHeaderBytes
  for (let at = 1; at < unit.length; at += room) {
    const piece = unit.subarray(at, at + room)
    const start = at === 1 ? startBit : 0
    const end = at + room >= unit.length ? endBit : 0
    const payload = new Uint8Array(fragmentHeaderBytes + piece.length)
    payload.set([indicator, start | end | (head & 0x1f)])
    payload.set(piece, fragmentHeaderBytes)
    pieces.push(payload)
  }
  return pieces
}

/** The payloads of the packets in which units are sent, each of at most so many bytes. */
export const rtpPayloadsOf = (units: readonly Uint8Array[], maxBytes: number): Uint8Array[] =>
  units.flatMap((unit) => payloadsOfUnit(unit, maxBytes))
