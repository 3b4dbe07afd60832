import type { DataCap } from '../show'
import { framing } from './framingTables'

/** What a show takes of a counted contract. Decimal gigabytes. */
export interface DataUse {
  showGigabytes: number
  leftGigabytes: number
  /** Seconds after the start at which nothing is left; null where it lasts to the end. */
  runsOutAfterSeconds: number | null
}

/**
 * What a rate as the budget counts it (TCP payload, kb/s) uses of a data cap over a show. Contracts
 * count whole packets, so every 1448 bytes count as the 1500 of the packet they travel in.
 */
export function dataUse(rateKbps: number, durationSeconds: number, cap: DataCap): DataUse {
  const bytesPerSecond =
    ((rateKbps * 1000) / 8) * (framing.ethernetPayloadBytes / framing.tcpPayloadPerPacketBytes)
  const leftBytes = Math.max(0, cap.gigabytes - cap.usedGigabytes) * 1e9
  const showBytes = bytesPerSecond * durationSeconds
  return {
    showGigabytes: showBytes / 1e9,
    leftGigabytes: leftBytes / 1e9,
    runsOutAfterSeconds: showBytes > leftBytes ? leftBytes / bytesPerSecond : null,
  }
}
