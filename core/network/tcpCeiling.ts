import { framing } from './framingTables'

/** √(3/2): one acknowledgement a segment, losses at regular distances. */
const mathisConstant = Math.sqrt(3 / 2)

/**
 * The most one TCP connection carries over a path, in kb/s: (MSS / RTT) · (C / √p), from Mathis,
 * Semke, Mahdavi and Ott 1997, "The macroscopic behavior of the TCP congestion avoidance algorithm".
 * Infinity without loss, where the formula says nothing. Throws a RangeError for a round trip that
 * is not above 0 or a loss outside 0 to 100.
 */
export function tcpCeilingKbps(roundTripMilliseconds: number, lossPercent: number): number {
  if (!(roundTripMilliseconds > 0))
    throw new RangeError(`a round trip of ${roundTripMilliseconds} ms`)
  if (!(lossPercent >= 0 && lossPercent <= 100)) throw new RangeError(`a loss of ${lossPercent} %`)
  if (lossPercent === 0) return Infinity
  const bitsPerSecond =
    ((framing.tcpPayloadPerPacketBytes * 8) / (roundTripMilliseconds / 1000)) *
    (mathisConstant / Math.sqrt(lossPercent / 100))
  return bitsPerSecond / 1000
}
