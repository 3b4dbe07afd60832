/** Bytes that were accepted between two instants of one clock, in milliseconds. */
export interface Transfer {
  fromMilliseconds: number
  toMilliseconds: number
  bytes: number
}

/**
 * The mean rate (kb/s) of each whole interval between two instants: a transfer's bytes count evenly
 * over the time it took, so that one that spans two intervals counts in both. What is left of the
 * last interval is not given.
 */
export function transferRates(
  transfers: readonly Transfer[],
  span: { fromMilliseconds: number; toMilliseconds: number },
  intervalMilliseconds: number,
): number[] {
  const count = Math.floor((span.toMilliseconds - span.fromMilliseconds) / intervalMilliseconds)
  const bytes = new Array<number>(Math.max(0, count)).fill(0)
  for (const transfer of transfers) {
    const from = transfer.fromMilliseconds - span.fromMilliseconds
    // What took no time at all still counts, in the interval in which it ended.
    const took = Math.max(transfer.toMilliseconds - transfer.fromMilliseconds, 1e-6)
    const first = Math.max(0, Math.floor(from / intervalMilliseconds))
    const last = Math.min(count - 1, Math.floor((from + took) / intervalMilliseconds))
    for (let index = first; index <= last; index += 1) {
      const start = Math.max(from, index * intervalMilliseconds)
      const end = Math.min(from + took, (index + 1) * intervalMilliseconds)
      bytes[index] = (bytes[index] ?? 0) + (transfer.bytes * Math.max(0, end - start)) / took
    }
  }
  return bytes.map((interval) => (interval * 8) / intervalMilliseconds)
}

/** How long one transfer of a measurement should take, and how small and large it may be. */
export const transferLimits = {
  aimMilliseconds: 400,
  firstBytes: 32_768,
  leastBytes: 8192,
  mostBytes: 4_000_000,
} as const

/** The size of the next transfer: what would have taken the aimed time, at most doubled at once. */
export function nextTransferBytes({ bytes, fromMilliseconds, toMilliseconds }: Transfer): number {
  const took = Math.max(1, toMilliseconds - fromMilliseconds)
  const wanted = (bytes * transferLimits.aimMilliseconds) / took
  return Math.round(
    Math.max(transferLimits.leastBytes, Math.min(wanted, bytes * 2, transferLimits.mostBytes)),
  )
}

/** The samples that a measurement is stored as are means over this long. */
export const sampleSeconds = 5
/** What is sent first is not counted: TCP is still finding its rate. */
export const warmUpSeconds = 1
