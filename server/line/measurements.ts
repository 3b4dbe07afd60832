import { practiceLineNames, practiceLines } from '@green-mantle/core/network'
import { nanoid } from 'nanoid'
import { z } from 'zod'
import { type Pacer, practicePacer } from './pacer'

/** What a measurement is asked for with; `practice` is null for the genuine line. */
export const measurementRequestSchema = z.strictObject({
  durationSeconds: z.int().min(1).max(600),
  practice: z
    .strictObject({
      line: z.enum(practiceLineNames),
      seed: z.int().min(0).max(2_147_483_647),
      startHour: z.number().min(0).max(24),
    })
    .nullable(),
})
export type MeasurementRequest = z.infer<typeof measurementRequestSchema>

export interface Measurement {
  id: string
  /** null where nothing holds the bytes back. */
  pacer: Pacer | null
  endsAt: number
}

const maxAtOnce = 8
/** For what is still on its way when the time is up. */
const graceSeconds = 30

const measurements = new Map<string, Measurement>()

export function endMeasurement(id: string): void {
  measurements.get(id)?.pacer?.stop()
  measurements.delete(id)
}

function endOverdue(now: number): void {
  for (const { id, endsAt } of measurements.values()) if (endsAt < now) endMeasurement(id)
}

/** Begins a measurement; undefined where too many are under way. */
export function beginMeasurement(
  { durationSeconds, practice }: MeasurementRequest,
  now = performance.now(),
): Measurement | undefined {
  endOverdue(now)
  if (measurements.size >= maxAtOnce) return undefined
  const wholeSeconds = durationSeconds + graceSeconds
  const measurement = {
    id: nanoid(),
    pacer:
      practice &&
      practicePacer(practiceLines[practice.line], { ...practice, durationSeconds: wholeSeconds }),
    endsAt: now + wholeSeconds * 1000,
  }
  measurements.set(measurement.id, measurement)
  return measurement
}

export function findMeasurement(id: string, now = performance.now()): Measurement | undefined {
  endOverdue(now)
  return measurements.get(id)
}
