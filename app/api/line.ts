import type { Line } from '@green-mantle/core/show'
import type { PracticeLineName } from '@green-mantle/core/network'
import { ask, withJson } from './ask'

export interface MeasurementRequest {
  durationSeconds: number
  practice: { line: PracticeLineName; seed: number; startHour: number } | null
}

export async function beginMeasurement(request: MeasurementRequest): Promise<string> {
  const response = await ask('/line/measurements', withJson('POST', request))
  return ((await response.json()) as { id: string }).id
}

export async function endMeasurement(id: string): Promise<void> {
  await ask(`/line/measurements/${id}`, { method: 'DELETE' })
}

export async function echo(id: string, signal: AbortSignal): Promise<void> {
  await ask(`/line/measurements/${id}/echo`, { signal })
}

export async function sendBytes(id: string, body: Blob, signal: AbortSignal): Promise<void> {
  await ask(`/line/measurements/${id}/bytes`, { method: 'POST', body, signal })
}

export interface LineOfShow {
  showId: string
  showTitle: string
  line: Line
}

/** Every line of every show. */
export async function fetchLines(): Promise<LineOfShow[]> {
  return (await ask('/lines')).json() as Promise<LineOfShow[]>
}
