import { maxMinShares } from './maxMinShares'
import type { PracticeSecond } from './practiceLine'
import { tcpCeilingKbps } from './tcpCeiling'

/** Credit that is not used is lost after this many ticks, as capacity is. */
const creditTicks = 4

/** What a paced connection may still send, and how much the first that waits on it needs; bytes. */
export interface PacedCredit {
  creditBytes: number
  waitingBytes: number
}

const bytesIn = (kbps: number, milliseconds: number): number => (kbps * milliseconds) / 8

/**
 * The credits of connections after so many milliseconds of a practice line: its capacity shared
 * max-min, none beyond the TCP ceiling of its path, and no more kept than a few ticks' worth; but
 * what waits comes through some day, however large it is. In the connections' order, bytes.
 */
export function creditsAfter(
  connections: readonly PacedCredit[],
  { capacityKbps, roundTripMilliseconds, lossPercent }: PracticeSecond,
  milliseconds: number,
): number[] {
  const ceiling = bytesIn(tcpCeilingKbps(roundTripMilliseconds, lossPercent), milliseconds)
  const shares = maxMinShares(
    connections.map(() => ceiling),
    bytesIn(capacityKbps, milliseconds),
  )
  return connections.map(({ creditBytes, waitingBytes }, index) => {
    const share = shares[index] ?? 0
    return Math.min(creditBytes + share, Math.max(share * creditTicks, waitingBytes))
  })
}
