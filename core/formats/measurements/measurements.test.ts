import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { lineSampleSchema } from '../../show'
import { type MeasurementDefaults, readMeasurements } from '.'
import { runsOf } from '../../../tests/tier'

/** Recorded here with Debian's iperf3 3.12 over loopback, paced to 18 and 12 Mb/s. */
const recorded = (protocol: 'tcp' | 'udp'): string =>
  readFileSync(new URL(`fixtures/iperf3-${protocol}.json`, import.meta.url), 'utf8')

const defaults: MeasurementDefaults = {
  medium: 'cable',
  unit: null,
  measuredAt: '2026-12-01T10:00:00Z',
  timeZone: 'UTC',
}
const samples = (text: string, changes: Partial<MeasurementDefaults> = {}) => {
  const read = readMeasurements(text, { ...defaults, ...changes })
  if (!read.ok) throw new Error(JSON.stringify(read))
  return read.samples
}

describe('measurements as CSV', () => {
  it('are read in any column order, the unit told from the header', () => {
    const text =
      'Note,Loss %,Upload (Mb/s),Link,RTT ms,Time\r\n"evening, dip",0.02,17.4,Wi-Fi,31,2026-12-11T21:20:00Z\r\n,,18.7,ethernet,,2026-12-11T21:45:00Z\r\n'
    expect(samples(text)).toEqual([
      {
        measuredAt: '2026-12-11T21:20:00.000Z',
        uploadKbps: 17_400,
        medium: 'wifi',
        roundTripMilliseconds: 31,
        lossPercent: 0.02,
        retransmits: null,
        note: 'evening, dip',
      },
      {
        measuredAt: '2026-12-11T21:45:00.000Z',
        uploadKbps: 18_700,
        medium: 'cable',
        roundTripMilliseconds: null,
        lossPercent: null,
        retransmits: null,
        note: '',
      },
    ])
  })

  it.each([
    ['upload kb/s\n5300', 5300],
    ['Upload (Mbit/s)\n5.3', 5300],
    ['rate_mbps\n5.3', 5300],
    ['speed in bit/s\n5300000', 5300],
    ['upload;when\n5,3;2026-12-11T21:20:00Z', 5300, 'Mb/s'],
    ['upload\tnote\n5.3\tx', 5300, 'Mb/s'],
    ['5300', 5300, 'kb/s'],
  ] as const)('%j', (text, uploadKbps, unit: MeasurementDefaults['unit'] = null) => {
    expect(samples(text, { unit })[0]!.uploadKbps).toBe(uploadKbps)
  })

  it('are read from a pasted column, as measured now', () => {
    expect(samples('18.2\n17.9\n\n18.4\n', { unit: 'Mb/s', medium: 'mobile' })).toMatchObject([
      { uploadKbps: 18_200, medium: 'mobile', measuredAt: defaults.measuredAt },
      { uploadKbps: 17_900 },
      { uploadKbps: 18_400 },
    ])
  })

  it('ask for the unit where nothing says it', () => {
    expect(readMeasurements('18.2\n17.9', defaults)).toEqual({ ok: false, reason: 'unit needed' })
    expect(readMeasurements('upload,note\n18.2,a', defaults)).toEqual({
      ok: false,
      reason: 'unit needed',
    })
  })

  it.each([
    ['upload Mb/s\n18.2\nfast\n', 'line 3, upload'],
    ['upload Mb/s,time\n18.2,soon\n', 'line 2, time'],
    ['upload Mb/s,rtt\n18.2,-4\n', 'line 2, round trip'],
    ['upload Mb/s,loss\n18.2,140\n', 'line 2, loss'],
    ['upload Mb/s,medium\n18.2,string\n', 'line 2, medium'],
    ['upload Mb/s\n-3\n', 'line 2, upload'],
    ['name,age\nInes,40\n', 'line 1'],
    ['upload Mb/s\n', 'the whole text'],
    ['', 'the whole text'],
    ['upload Mb/s,note\n18.2,"open\n', 'line 2'],
  ])('are refused with line and field: %j', (text, place) => {
    expect(readMeasurements(text, defaults)).toMatchObject({ ok: false, reason: 'damaged', place })
  })
})

describe('measurements of iperf3', () => {
  it('over TCP keep their rate, time, round trip and retransmits', () => {
    const report = JSON.parse(recorded('tcp'))
    const read = samples(recorded('tcp'))
    expect(read).toHaveLength(report.intervals.length)
    read.forEach((sample, index) => {
      const { sum, streams } = report.intervals[index]
      expect(sample.uploadKbps).toBeCloseTo(sum.bits_per_second / 1000, 0)
      expect(sample.roundTripMilliseconds).toBeCloseTo(streams[0].rtt / 1000, 9)
      expect(sample.retransmits).toBe(sum.retransmits)
    })
    expect(Date.parse(read[1]!.measuredAt) - Date.parse(read[0]!.measuredAt)).toBeCloseTo(1000, -1)
    expect(Date.parse(read[0]!.measuredAt)).toBe(report.start.timestamp.timesecs * 1000)
  })

  it('over UDP lose what the test lost', () => {
    const report = JSON.parse(recorded('udp'))
    expect(samples(recorded('udp'))[0]).toMatchObject({
      lossPercent: 0,
      roundTripMilliseconds: null,
    })
    report.end.sum.lost_percent = 10
    const lossy = samples(JSON.stringify(report))[0]!
    expect(lossy.lossPercent).toBe(10)
    expect(lossy.uploadKbps).toBeCloseTo((report.intervals[0].sum.bits_per_second / 1000) * 0.9, 0)
  })

  it('keep a stalled interval as an outage of its length', () => {
    const report = JSON.parse(recorded('tcp'))
    const [first] = report.intervals
    const stalled = { ...first, sum: { ...first.sum, bits_per_second: 0 } }
    report.intervals = [first, first, stalled, stalled, first]
    const read = samples(JSON.stringify(report))
    expect(read).toHaveLength(report.intervals.length)
    expect(read.map(({ uploadKbps }) => uploadKbps === 0)).toEqual([
      false,
      false,
      true,
      true,
      false,
    ])
  })

  it.each([
    ['a failed test', '{"error": "unable to connect to server"}', 'error'],
    [
      'a download',
      recorded('tcp').replace(/"reverse":\s*0/, '"reverse": 1'),
      'start.test_start.reverse',
    ],
    ['another JSON', '{"a": 1}', 'start'],
    ['a damaged one', recorded('tcp').slice(0, 900), /^line \d+, column \d+$/],
    [
      'a broken interval',
      recorded('tcp').replaceAll(/"bits_per_second":\s*[\d.]+/g, '"bits_per_second": "fast"'),
      /^intervals\[0\]/,
    ],
    [
      'an interval beyond any date',
      recorded('tcp').replaceAll(/"start":\s*[\d.]+/g, '"start": 1e15'),
      /^intervals\[0\]/,
    ],
  ])('are refused with the place: %s', (_name, text, place) => {
    const read = readMeasurements(text, defaults)
    expect(read).toMatchObject({ ok: false, reason: 'damaged' })
    expect(read.ok === false && 'place' in read && read.place).toMatch(place)
  })
})

describe('any import', () => {
  it('never throws and takes only what a line can keep, through 2,000 mutations', () => {
    const whole = fc.constantFrom(
      recorded('tcp'),
      recorded('udp'),
      'time,upload Mb/s,medium\n2026-12-11T21:20:00Z,18.2,cable\n2026-12-11T21:40:00Z,17.2,wifi\n',
    )
    const changes = fc.array(fc.tuple(fc.nat(4000), fc.string({ maxLength: 5 }), fc.nat(3)), {
      minLength: 1,
      maxLength: 6,
    })
    fc.assert(
      fc.property(whole, changes, (text, list) => {
        const mutated = list.reduce(
          (now, [at, put, cut]) =>
            now.slice(0, at % now.length) + put + now.slice((at % now.length) + cut),
          text,
        )
        const read = readMeasurements(mutated, { ...defaults, unit: 'Mb/s' })
        if (!read.ok) return
        for (const sample of read.samples)
          expect(lineSampleSchema.safeParse({ ...sample, id: 'a' }).success).toBe(true)
      }),
      { numRuns: runsOf(2000) },
    )
  })
})
