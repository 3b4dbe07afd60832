import { getRouterParam, type H3Event } from 'h3'
import { findMeasurement, type Measurement } from '../line/measurements'
import { ProblemError } from './problem'

/** The measurement that a request belongs to. */
export function measurementOf(event: H3Event): Measurement {
  const measurement = findMeasurement(getRouterParam(event, 'id') ?? '')
  if (measurement) return measurement
  throw measurementOver()
}

export const measurementOver = (): ProblemError =>
  new ProblemError({
    status: 404,
    title: 'This measurement is over',
    detail: 'What was measured so far is kept; begin another.',
  })
