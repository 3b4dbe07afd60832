import { type Line, type LineSample, type Medium, newLine } from '@green-mantle/core/show'

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

const phoneRows: Row[] = [
  ['2026-12-11T18:00:00Z', 11_900, 'mobile', 52, 0.08],
  ['2026-12-11T19:00:00Z', 8400, 'mobile', 61, 0.2],
  ['2026-12-11T20:00:00Z', 9700, 'mobile', 55, 0.1],
  ['2026-12-11T21:00:00Z', 6300, 'mobile', 70, 0.35, 'by the pond door'],
  ['2026-12-11T22:00:00Z', 10_800, 'mobile', 54, 0.1],
]

/** The same copper by Wi-Fi, from the far end of the glasshouse. */
const wifiRows: Row[] = [
  ['2026-12-11T18:10:00Z', 14_100, 'wifi', 36, 0.2],
  ['2026-12-11T19:30:00Z', 11_600, 'wifi', 41, 0.6, 'pump running'],
  ['2026-12-11T20:40:00Z', 13_300, 'wifi', 38, 0.3],
  ['2026-12-11T21:30:00Z', 9800, 'wifi', 47, 0.9],
  ['2026-12-11T21:50:00Z', 12_700, 'wifi', 39, 0.4],
]

const samplesFrom = (prefix: string, from: readonly Row[]): LineSample[] =>
  from.map(
    ([measuredAt, uploadKbps, medium, roundTripMilliseconds, lossPercent, note = ''], index) => ({
      id: `${prefix}-${index + 1}`,
      measuredAt,
      uploadKbps,
      medium,
      roundTripMilliseconds,
      lossPercent,
      retransmits: null,
      note,
    }),
  )

/** The demo's rural line, measured through one evening, and the phone that would stand in for it. */
export const demoLines: Line[] = [
  {
    ...newLine('glasshouse', 'Glasshouse copper line'),
    medium: 'cable',
    samples: [...samplesFrom('sample', rows), ...samplesFrom('wifi', wifiRows)],
    otherTraffic: [
      { id: 'till', name: 'Shop till', bitrateKbps: 200, on: true },
      { id: 'call', name: 'Call with the second host', bitrateKbps: 1500, on: false },
    ],
    localNetwork: {
      linkKbps: 1_000_000,
      devices: [
        { id: 'macro', name: 'Petal macro camera', bitrateKbps: 100_000, on: true },
        { id: 'pond', name: 'Pond camera', bitrateKbps: 100_000, on: true },
      ],
    },
  },
  {
    ...newLine('phone', 'Second host’s phone'),
    samples: samplesFrom('phone', phoneRows),
    dataCap: { gigabytes: 20, usedGigabytes: 13 },
  },
]
