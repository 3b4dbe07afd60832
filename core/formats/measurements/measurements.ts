import type { LineSample } from '../../show'
import { type DraftSample, type MeasurementDefaults, measurementLimits } from './draft'
import { readIperf3 } from './iperf3'
import { readMeasurementCsv } from './measurementCsv'

export type ReadMeasurementsResult =
  | { ok: true; samples: Omit<LineSample, 'id'>[] }
  /** Nothing says what the rates are in. */
  | { ok: false; reason: 'unit needed' }
  | { ok: false; reason: 'damaged'; place: string; message: string }

const fastestKbps = 100_000_000

function checked(samples: readonly DraftSample[]): ReadMeasurementsResult {
  if (samples.length === 0)
    return {
      ok: false,
      reason: 'damaged',
      place: 'the whole text',
      message: 'no measurement in it',
    }
  if (samples.length > measurementLimits.samples)
    return {
      ok: false,
      reason: 'damaged',
      place: 'the whole text',
      message: `${samples.length} measurements; a line keeps at most ${measurementLimits.samples}`,
    }
  for (const { place, uploadKbps } of samples)
    // A stalled interval is an outage of that length, and kept as such.
    if (uploadKbps !== 0 && !(uploadKbps >= 1 && uploadKbps <= fastestKbps))
      return {
        ok: false,
        reason: 'damaged',
        place: `${place}, upload`,
        message: 'no rate from 1 kb/s to 100 Gb/s, nor 0 for an outage',
      }
  return {
    ok: true,
    samples: samples.map(({ place: _place, ...sample }) => ({
      ...sample,
      uploadKbps: Math.round(sample.uploadKbps * 10) / 10,
    })),
  }
}

/**
 * Reads upload measurements from a CSV file with a header in any column order, from a pasted column
 * of numbers, or from the JSON that `iperf3 -J` writes. Never throws, and takes all or nothing: the
 * first thing that cannot be read is named with its line and field.
 */
export function readMeasurements(
  text: string,
  defaults: MeasurementDefaults,
): ReadMeasurementsResult {
  if (text.length > measurementLimits.characters)
    return {
      ok: false,
      reason: 'damaged',
      place: 'the whole text',
      message: `longer than ${measurementLimits.characters / 1_000_000} million characters`,
    }
  const read = text.trimStart().startsWith('{')
    ? readIperf3(text, defaults)
    : readMeasurementCsv(text, defaults)
  return read.ok ? checked(read.samples) : read
}
