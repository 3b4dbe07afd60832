import { type Line, media, type Medium } from '../show'
import { percentile } from './percentile'
import { countedSamples, steadyRate } from './usableUpload'

/** What the samples of one medium say; rates in kb/s. */
export interface MediumResult {
  medium: Medium
  sampleCount: number
  steadyKbps: number
  medianKbps: number
  /** The steady rate as a share of the best medium's, 1 = the best. */
  shareOfBest: number
}

/** The media that a line was measured by, side by side, the steadiest first. */
export function mediaCompared(line: Pick<Line, 'samples' | 'lowPercentile'>): MediumResult[] {
  const results = media.flatMap((medium) => {
    const samples = countedSamples({ samples: line.samples, medium })
    if (samples.length === 0) return []
    return [
      {
        medium,
        sampleCount: samples.length,
        steadyKbps: steadyRate(samples, line.lowPercentile).measuredKbps,
        medianKbps: percentile(
          samples.map(({ uploadKbps }) => uploadKbps),
          50,
        ),
      },
    ]
  })
  const bestKbps = Math.max(...results.map(({ steadyKbps }) => steadyKbps))
  return results
    .map((result) => ({ ...result, shareOfBest: result.steadyKbps / bestKbps }))
    .sort((a, b) => b.steadyKbps - a.steadyKbps)
}
