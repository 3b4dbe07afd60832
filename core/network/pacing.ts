import { maxMinShares } from './maxMinShares'
import type { PracticeSecond } from './practiceLine'
import { tcpCeilingKbps } from './tcpCeiling'

/** Credit that is not used is lost after this many ticks, as capacity is. */
const creditTicks = 4

/** What a paced connection may still send, and how much the first that waits on it needs; bytes. */
export interface PacedCredit {
  creditBytes: number
  waitingBytes: number
  /** Datagrams take their rate whatever is lost; a stream is held to the TCP ceiling of its path. */
  isStream: boolean
}

const bytesIn = (kbps: number, milliseconds: number): number => (kbps * milliseconds) / 8

/**
 * The credits of connections after so many milliseconds of a practice line: its capacity shared
 * max-min between those that wait for some, no stream beyond the TCP ceiling of its path, and no more
 * kept than a few ticks' worth; but what waits comes through some day, however large it is. In the
 * connections' order, bytes.
 */
export function creditsAfter(
  connections: readonly PacedCredit[],
  { capacityKbps, roundTripMilliseconds, lossPercent }: PracticeSecond,
  milliseconds: number,
): number[] {
  const ceiling = bytesIn(tcpCeilingKbps(roundTripMilliseconds, lossPercent), milliseconds)
  const capacity = bytesIn(capacityKbps, milliseconds)
  const shares = maxMinShares(
    connections.map(({ waitingBytes, isStream }) => {
      if (waitingBytes === 0) return 0
      return isStream ? ceiling : capacity
    }),
    capacity,
  )
  return connections.map(({ creditBytes, waitingBytes }, index) => {
    const share = shares[index] ?? 0
    // Who waits for nothing keeps what it has: it was no more than a few ticks' worth when it got it.
    if (waitingBytes === 0) return creditBytes
    return Math.min(creditBytes + share, Math.max(share * creditTicks, waitingBytes))
  })
}
