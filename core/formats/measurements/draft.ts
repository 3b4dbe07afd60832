import type { LineSample, Medium } from '../../show'

/** What one unit of a column is in kb/s. */
export const rateUnitsKbps = { 'Mb/s': 1000, 'kb/s': 1, 'bit/s': 0.001 } as const
export type RateUnit = keyof typeof rateUnitsKbps

/** What a file or a pasted text does not say itself. */
export interface MeasurementDefaults {
  medium: Medium
  /** For rates whose column names no unit; null asks for it. */
  unit: RateUnit | null
  /** When they count as measured where no time is given, as ISO 8601 in UTC. */
  measuredAt: string
  /** The zone of times that name none. */
  timeZone: string
}

/** More than a line keeps, so that a wrong file is refused before it is worked through. */
export const measurementLimits = { characters: 4_000_000, samples: 5000 } as const

/** A measurement with the place it was read from. */
export type DraftSample = Omit<LineSample, 'id'> & { place: string }

export type DraftResult =
  | { ok: true; samples: DraftSample[] }
  | { ok: false; reason: 'unit needed' }
  | { ok: false; reason: 'damaged'; place: string; message: string }
