import { quantile } from 'd3-array'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Line, newLine, rateControls } from '../show'
import { peakShare } from './peaks'
import { percentile } from './percentile'
import { samplesThatCarry, singleMeasurementAnswers, usableUpload } from './usableUpload'

function line(uploadsKbps: number[], changes: Partial<Line> = {}): Line {
  return {
    ...newLine('line', 'Line'),
    samples: uploadsKbps.map((uploadKbps, index) => ({
      id: `s${index}`,
      measuredAt: `2026-12-01T10:00:${String(index).padStart(2, '0')}Z`,
      uploadKbps,
      medium: 'cable',
      roundTripMilliseconds: null,
      lossPercent: null,
      retransmits: null,
      note: '',
    })),
    ...changes,
  }
}
const call = (bitrateKbps: number, on = true) => ({ id: 'call', name: 'Call', bitrateKbps, on })

describe('percentile', () => {
  it('agrees with a general library (d3-array, quantile type 7)', () => {
    const values = fc.array(fc.double({ min: 1, max: 1e6, noNaN: true }), { minLength: 1 })
    fc.assert(
      fc.property(values, fc.integer({ min: 0, max: 100 }), (numbers, p) => {
        expect(percentile(numbers, p)).toBeCloseTo(quantile(numbers, p / 100) as number, 5)
      }),
    )
  })

  it('refuses no values and a share that is none', () => {
    expect(() => percentile([], 10)).toThrow(RangeError)
    expect(() => percentile([1], 101)).toThrow(RangeError)
  })
})

describe('usable upload', () => {
  it('is low percentile less headroom less other traffic', () => {
    const samples = [
      10_000, 11_000, 12_000, 13_000, 14_000, 15_000, 16_000, 17_000, 18_000, 19_000, 20_000,
    ]
    const upload = usableUpload(
      line(samples, { otherTraffic: [call(700), { ...call(900, false), id: 'off' }] }),
    )
    expect(upload).toEqual({
      sampleCount: 11,
      basis: 'low percentile',
      measuredKbps: 11_000,
      headroomKbps: 3300,
      otherTrafficKbps: 700,
      peaksKbps: 7000 * 0.15,
      peaksBeyondHeadroomKbps: 0,
      usableKbps: 7000,
    })
  })

  it('takes the smallest of fewer than five samples', () => {
    expect(usableUpload(line([9000, 7000, 8000, 10_000]))).toMatchObject({
      basis: 'smallest sample',
      measuredKbps: 7000,
    })
    expect(usableUpload(line([9000, 7000, 8000, 10_000, 11_000])).basis).toBe('low percentile')
  })

  it('leaves room for the busiest second where the headroom does not', () => {
    // By hand: 11,500 − 0 for headroom, and 10,000 × 1.15 = 11,500.
    expect(usableUpload(line([11_500], { headroomPercent: 0 }))).toMatchObject({
      usableKbps: 10_000,
      peaksBeyondHeadroomKbps: 1500,
    })
    // Of 12,100, other traffic takes 2100; what is left is shared by mean and peak.
    const busy = line([12_100], { headroomPercent: 5, otherTraffic: [call(2100)] })
    expect(usableUpload(busy).usableKbps).toBeCloseTo(10_000 / 1.15, 6)
    // Variable bitrate is burstier: 13,000 = 10,000 × 1.3.
    const variable = usableUpload(line([13_000], { headroomPercent: 20 }), peakShare('variable'))
    expect(variable.usableKbps).toBeCloseTo(10_000, 6)
  })

  // Common practice, no published source: 80 % of one test is enough of a margin.
  it('asks for no more than the rule of 80 % leaves', () => {
    const upload = usableUpload(line([10_000], { headroomPercent: 20 }))
    expect(upload).toMatchObject({ usableKbps: 8000, peaksBeyondHeadroomKbps: 0 })
  })

  it('always lets the busiest second of all sends pass', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1000, max: 1e6 }),
        fc.integer({ min: 0, max: 70 }),
        fc.integer({ min: 0, max: 1e5 }),
        fc.constantFrom(...rateControls),
        (sample, headroomPercent, kbps, rateControl) => {
          const share = peakShare(rateControl)
          const busy = line([sample], { headroomPercent, otherTraffic: [call(kbps)] })
          const { usableKbps, peaksKbps } = usableUpload(busy, share)
          expect(peaksKbps).toBeCloseTo(usableKbps * share, 6)
          expect(usableKbps + peaksKbps).toBeLessThanOrEqual(Math.max(0, sample - kbps) + 1e-6)
        },
      ),
    )
  })

  it('is nothing without samples, and never below zero', () => {
    expect(usableUpload(line([])).usableKbps).toBe(0)
    expect(usableUpload(line([1000], { otherTraffic: [call(5000)] })).usableKbps).toBe(0)
  })

  it('never exceeds the smallest sample when there are fewer than five', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 1e6 }), { minLength: 1, maxLength: 4 }),
        fc.integer({ min: 0, max: 70 }),
        (samples, headroomPercent) => {
          const { usableKbps } = usableUpload(line(samples, { headroomPercent }))
          expect(usableKbps).toBeLessThanOrEqual(Math.min(...samples))
        },
      ),
    )
  })

  it('never grows with headroom or other traffic', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1000, max: 1e6 }), { minLength: 1, maxLength: 20 }),
        fc.integer({ min: 0, max: 69 }),
        fc.integer({ min: 0, max: 50_000 }),
        (samples, headroomPercent, kbps) => {
          const base = usableUpload(line(samples, { headroomPercent })).usableKbps
          const more = line(samples, {
            headroomPercent: headroomPercent + 1,
            otherTraffic: [call(kbps)],
          })
          expect(usableUpload(more).usableKbps).toBeLessThanOrEqual(base)
        },
      ),
    )
  })
})

describe('single-number rules', () => {
  // Common practice, no published source: 10 Mb/s up × 80 % = 8000 kb/s.
  it('makes 8000 kb/s of 10 Mb/s by the 80 % rule and 5000 to 7000 by the other', () => {
    const rates = singleMeasurementAnswers(line([10_000])).map(({ rateKbps }) => rateKbps)
    expect(rates).toEqual([5000, 7000, 8000, 10_000])
  })

  it('takes the latest measurement and counts the samples that carry each answer', () => {
    const answers = singleMeasurementAnswers(line([4000, 8000, 10_000]))
    expect(answers.map(({ carriedBy }) => carriedBy)).toEqual([2, 2, 2, 1])
    expect(singleMeasurementAnswers(line([]))).toEqual([])
  })

  it('counts other traffic beside the rate', () => {
    const busy = line([5000, 6000, 7000], { otherTraffic: [call(1000)] })
    expect(samplesThatCarry(busy, 5000)).toBe(2)
  })
})
