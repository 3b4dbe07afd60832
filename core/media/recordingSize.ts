import type { Rendition } from '../show'

type Recorded = Pick<Rendition, 'videoBitrateKbps' | 'audioBitrateKbps'>

/** Decimal megabytes of a recording: (video + audio) · length / 8. */
export function recordingMegabytes(rendition: Recorded, durationMinutes: number): number {
  return (
    ((rendition.videoBitrateKbps + rendition.audioBitrateKbps) * durationMinutes * 60) / 8 / 1000
  )
}

/** Decimal megabytes of memory that a look-back buffer of so many seconds holds. */
export function lookBackMegabytes(rendition: Recorded, seconds: number): number {
  return recordingMegabytes(rendition, seconds / 60)
}
