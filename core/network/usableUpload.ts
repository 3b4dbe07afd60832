import type { Line, LineSample } from '../show'
import { peakShare } from './peaks'
import { percentile } from './percentile'

/** With fewer samples than this a percentile says little, so the smallest counts. */
export const fewestSamplesForPercentile = 5

/** The usable upload as a sum that can be followed, all in kb/s. */
export interface UsableUpload {
  sampleCount: number
  /** Which of the two was taken from the samples. */
  basis: 'low percentile' | 'smallest sample' | 'no samples'
  measuredKbps: number
  headroomKbps: number
  otherTrafficKbps: number
  /** What the sends' busiest seconds need beyond their mean, were all busy at once and all of the rest spent. */
  peaksKbps: number
  /** How much of that the headroom does not hold already. */
  peaksBeyondHeadroomKbps: number
  /** What may be spent on sends; never below zero. */
  usableKbps: number
}

/** With fewer than this nobody can say how low a line goes, and headroom is not given up. */
export const fewestSamplesForLessHeadroom = 20

/** Whether a line was measured often enough to give some of its headroom up. */
export const knowsHowLow = (line: Pick<Line, 'samples' | 'medium'>): boolean =>
  countedSamples(line).length >= fewestSamplesForLessHeadroom

/**
 * The samples that count for a line: those of its medium, or all where none is chosen. A stalled one
 * is an outage, and says nothing of the rate.
 */
export function countedSamples(line: Pick<Line, 'samples' | 'medium'>): LineSample[] {
  return line.samples.filter(
    ({ medium, uploadKbps }) => uploadKbps > 0 && (line.medium === null || medium === line.medium),
  )
}

/**
 * The rate (kb/s) that samples hold most of the time: their low percentile, or the smallest of fewer
 * than five; 0 without any.
 */
export function steadyRate(
  samples: readonly Pick<LineSample, 'uploadKbps'>[],
  lowPercentile: number,
): Pick<UsableUpload, 'basis' | 'measuredKbps'> {
  const rates = samples.map(({ uploadKbps }) => uploadKbps)
  if (rates.length === 0) return { basis: 'no samples', measuredKbps: 0 }
  if (rates.length < fewestSamplesForPercentile)
    return { basis: 'smallest sample', measuredKbps: Math.min(...rates) }
  return { basis: 'low percentile', measuredKbps: percentile(rates, lowPercentile) }
}

/** What else uses the upload, kb/s: the sum of what is on. */
export function otherTrafficKbps({ otherTraffic }: Pick<Line, 'otherTraffic'>): number {
  return otherTraffic.filter(({ on }) => on).reduce((sum, { bitrateKbps }) => sum + bitrateKbps, 0)
}

interface LineSum extends Omit<UsableUpload, 'sampleCount' | 'usableKbps'> {
  /** Below zero where other traffic alone takes more than there is. */
  leftKbps: number
}

/**
 * Sends may take what headroom and other traffic leave, and no more than what leaves room for their
 * own peaks: of their mean rate a share more. A headroom that is wide enough holds the peaks.
 */
function lineSum(line: Line, sendsPeakShare: number): LineSum {
  const { basis, measuredKbps } = steadyRate(countedSamples(line), line.lowPercentile)
  const headroomKbps = (measuredKbps * line.headroomPercent) / 100
  const otherKbps = otherTrafficKbps(line)
  const afterHeadroomKbps = measuredKbps - headroomKbps - otherKbps
  const withPeaksKbps = (measuredKbps - otherKbps) / (1 + sendsPeakShare)
  const leftKbps = Math.min(afterHeadroomKbps, withPeaksKbps)
  return {
    basis,
    measuredKbps,
    headroomKbps,
    otherTrafficKbps: otherKbps,
    peaksKbps: Math.max(0, leftKbps) * sendsPeakShare,
    peaksBeyondHeadroomKbps: Math.max(0, afterHeadroomKbps) - Math.max(0, leftKbps),
    leftKbps,
  }
}

/** What is left of the line for sends, kb/s; below zero where other traffic alone takes more than there is. */
export const spareUploadKbps = (line: Line, sendsPeakShare = peakShare('constant')): number =>
  lineSum(line, sendsPeakShare).leftKbps

/**
 * Low percentile of the samples × (1 − headroom) − other traffic, and never so much that the sends'
 * busiest second (by `sendsPeakShare` above their mean) would not pass.
 */
export function usableUpload(line: Line, sendsPeakShare = peakShare('constant')): UsableUpload {
  const { leftKbps, ...sum } = lineSum(line, sendsPeakShare)
  return {
    sampleCount: countedSamples(line).length,
    ...sum,
    usableKbps: Math.max(0, leftKbps),
  }
}

/** What the common single-number rules make of one measurement; common practice, no published source. */
export const singleMeasurementRules = [
  { name: '50 % of one test', share: 0.5 },
  { name: '70 % of one test', share: 0.7 },
  { name: '80 % of one test', share: 0.8 },
  { name: 'all of one test', share: 1 },
] as const

/** How many of the counted samples would have carried this rate (kb/s) beside the other traffic. */
export function samplesThatCarry(line: Line, rateKbps: number): number {
  const neededKbps = rateKbps + otherTrafficKbps(line)
  return countedSamples(line).filter(({ uploadKbps }) => uploadKbps >= neededKbps).length
}

/** The single-number rules applied to the latest counted sample, each with the samples that would have carried it. */
export function singleMeasurementAnswers(
  line: Line,
): { name: string; rateKbps: number; carriedBy: number }[] {
  const [latest] = countedSamples(line).sort((a, b) => b.measuredAt.localeCompare(a.measuredAt))
  if (!latest) return []
  return singleMeasurementRules.map(({ name, share }) => {
    const rateKbps = latest.uploadKbps * share
    return { name, rateKbps, carriedBy: samplesThatCarry(line, rateKbps) }
  })
}
