import { type Happening, lineCarried, type ObservedLine } from '@green-mantle/core/night'

/** What a line that was observed since `since` (ms of the epoch) carried, for the log; null where nothing was sent. */
export function carriedBy(line: ObservedLine, since: number): Happening | null {
  const { seconds, meanKbps, shortages } = lineCarried(line)
  if (seconds <= 0) return null
  return {
    ...{ kind: 'carried', seconds, meanKbps },
    shortages: shortages.map(({ fromSeconds, ...shortage }) => ({
      ...shortage,
      startedAt: new Date(since + fromSeconds * 1000).toISOString(),
    })),
  }
}
