import type { Line } from '../show'
import { percentile } from './percentile'

export const lowPercentile = 10
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
  /** What may be spent on sends; never below zero. */
  usableKbps: number
}

/** The rate that the line holds most of the time: P10, or the smallest of fewer than five samples; 0 without any. */
function measuredRate(line: Line): Pick<UsableUpload, 'basis' | 'measuredKbps'> {
  const rates = line.samples.map((sample) => sample.uploadKbps)
  if (rates.length === 0) return { basis: 'no samples', measuredKbps: 0 }
  if (rates.length < fewestSamplesForPercentile)
    return { basis: 'smallest sample', measuredKbps: Math.min(...rates) }
  return { basis: 'low percentile', measuredKbps: percentile(rates, lowPercentile) }
}

/** Low percentile of the samples × (1 − headroom) − other traffic. */
export function usableUpload(line: Line): UsableUpload {
  const { basis, measuredKbps } = measuredRate(line)
  const headroomKbps = (measuredKbps * line.headroomPercent) / 100
  const otherTrafficKbps = line.otherTraffic
    .filter((traffic) => traffic.on)
    .reduce((sum, traffic) => sum + traffic.bitrateKbps, 0)
  return {
    sampleCount: line.samples.length,
    basis,
    measuredKbps,
    headroomKbps,
    otherTrafficKbps,
    usableKbps: Math.max(0, measuredKbps - headroomKbps - otherTrafficKbps),
  }
}

/** What the common single-number rules make of one measurement; common practice, no published source. */
export const singleMeasurementRules = [
  { name: '50 % of one test', share: 0.5 },
  { name: '70 % of one test', share: 0.7 },
  { name: '80 % of one test', share: 0.8 },
  { name: 'all of one test', share: 1 },
] as const

/** How many of the samples would have carried this rate (kb/s) beside the other traffic. */
export function samplesThatCarry(line: Line, rateKbps: number): number {
  const { otherTrafficKbps } = usableUpload(line)
  return line.samples.filter((sample) => sample.uploadKbps >= rateKbps + otherTrafficKbps).length
}

/** The single-number rules applied to the latest sample, each with the samples that would have carried it. */
export function singleMeasurementAnswers(
  line: Line,
): { name: string; rateKbps: number; carriedBy: number }[] {
  const latest = [...line.samples].sort((a, b) => b.measuredAt.localeCompare(a.measuredAt))[0]
  if (!latest) return []
  return singleMeasurementRules.map(({ name, share }) => {
    const rateKbps = latest.uploadKbps * share
    return { name, rateKbps, carriedBy: samplesThatCarry(line, rateKbps) }
  })
}
