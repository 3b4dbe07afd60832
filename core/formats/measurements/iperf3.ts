import { z } from 'zod'
import { placeInWords } from '../../show'
import { readJson } from '../jsonFile'
import { type DraftResult, type MeasurementDefaults, measurementLimits } from './draft'

const number = z.number().refine(Number.isFinite)
/** No measurement takes a year; a time beyond what a date can be is damage. */
const longestSeconds = 31_536_000
const sumShape = z.object({
  start: number.min(0).max(longestSeconds),
  bits_per_second: number.min(0),
  retransmits: number.optional(),
  omitted: z.boolean().optional(),
})

/** The part of the report (iperf 3.12, as recorded here) that is used; the rest may be anything. */
const reportShape = z.object({
  error: z.string().optional(),
  start: z.object({
    timestamp: z.object({ timesecs: number.min(0).max(32_503_680_000) }),
    test_start: z.object({
      protocol: z.enum(['TCP', 'UDP']),
      reverse: number.optional(),
    }),
  }),
  intervals: z.array(
    z.object({ sum: sumShape, streams: z.array(z.object({ rtt: number.optional() })) }),
  ),
  end: z.object({ sum: z.object({ lost_percent: number.min(0).max(100) }).optional() }),
})

const damaged = (place: string, message: string): DraftResult => ({
  ok: false,
  reason: 'damaged',
  place,
  message,
})

const mean = (values: readonly number[]): number | null =>
  values.length === 0 ? null : values.reduce((sum, value) => sum + value, 0) / values.length

/**
 * Reads the JSON that `iperf3 -J` writes: each interval is a measurement, with its round trip and its
 * retransmits over TCP. Over UDP an interval says what was sent, so what the whole test lost is
 * taken off it.
 */
export function readIperf3(text: string, { medium }: MeasurementDefaults): DraftResult {
  const json = readJson(text, measurementLimits.characters)
  if (!json.ok) {
    const [problem] = json.problems
    return damaged(problem?.place ?? 'the whole text', problem?.message ?? 'this is not JSON')
  }
  const failed = z.object({ error: z.string() }).safeParse(json.value)
  if (failed.success) return damaged('error', `the test failed: ${failed.data.error.slice(0, 120)}`)
  const read = reportShape.safeParse(json.value)
  if (!read.success) {
    const [issue] = read.error.issues
    return damaged(
      placeInWords(issue?.path ?? []) || 'the whole text',
      issue?.message.toLowerCase() ?? 'not a report of iperf3',
    )
  }
  const { start, intervals, end } = read.data
  if (start.test_start.reverse)
    return damaged('start.test_start.reverse', 'this test measured the download, not the upload')
  const lossPercent = start.test_start.protocol === 'UDP' ? (end.sum?.lost_percent ?? null) : null
  const samples = intervals
    .filter(({ sum }) => !sum.omitted)
    .map(({ sum, streams }, index) => {
      const roundTrip = mean(streams.flatMap(({ rtt }) => (rtt === undefined ? [] : [rtt])))
      const { retransmits } = sum
      return {
        place: `intervals[${index}]`,
        measuredAt: new Date(
          Math.round((start.timestamp.timesecs + sum.start) * 1000),
        ).toISOString(),
        uploadKbps: (sum.bits_per_second / 1000) * (1 - (lossPercent ?? 0) / 100),
        medium,
        // Given in microseconds.
        roundTripMilliseconds:
          roundTrip === null ? null : Math.min(60_000, Math.max(0, roundTrip / 1000)),
        lossPercent,
        retransmits: retransmits === undefined ? null : Math.max(0, Math.round(retransmits)),
        note: '',
      }
    })
  return { ok: true, samples }
}
