import type { Line, LineSample, Medium } from '@green-mantle/core/show'

type Row = readonly [
  measuredAt: string,
  uploadKbps: number,
  medium: Medium,
  roundTripMilliseconds: number,
  lossPercent: number,
  note?: string,
]

const rows: Row[] = [
  ['2026-12-11T17:05:00Z', 19_600, 'cable', 29, 0.01],
  ['2026-12-11T17:30:00Z', 18_200, 'cable', 30, 0.01],
  ['2026-12-11T18:05:00Z', 19_300, 'cable', 29, 0.01],
  ['2026-12-11T18:30:00Z', 18_500, 'cable', 30, 0.02],
  ['2026-12-11T18:55:00Z', 18_800, 'cable', 29, 0.01],
  ['2026-12-11T19:20:00Z', 19_100, 'cable', 30, 0.01],
  ['2026-12-11T19:50:00Z', 18_000, 'cable', 31, 0.02],
  ['2026-12-11T20:15:00Z', 18_900, 'cable', 29, 0.01],
  ['2026-12-11T20:36:00Z', 18_400, 'cable', 30, 0.01],
  ['2026-12-11T20:58:00Z', 18_100, 'cable', 30, 0.01],
  ['2026-12-11T21:20:00Z', 17_400, 'cable', 31, 0.02, 'evening dip'],
  ['2026-12-11T21:45:00Z', 18_700, 'cable', 29, 0.01],
]

/** The demo's rural line, measured through one evening. */
export const demoLine: Line = {
  name: 'Glasshouse copper line',
  headroomPercent: 30,
  samples: rows.map(
    (
      [measuredAt, uploadKbps, medium, roundTripMilliseconds, lossPercent, note = ''],
      index,
    ): LineSample => ({
      id: `sample-${index + 1}`,
      measuredAt,
      uploadKbps,
      medium,
      roundTripMilliseconds,
      lossPercent,
      note,
    }),
  ),
  otherTraffic: [
    { id: 'till', name: 'Shop till', bitrateKbps: 200, on: true },
    { id: 'call', name: 'Call with the second host', bitrateKbps: 1500, on: false },
  ],
}
