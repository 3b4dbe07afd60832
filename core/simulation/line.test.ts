import { demoShow } from '@green-mantle/demo'
import { deviation as sampleDeviation, mean } from 'd3-array'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Line, type LineSample, lineOf } from '../show'
import { lineModelOf, outagesOf, secondsInARow, wanderOf } from './lineModel'
import { eachSpan, lineNight, stepSeconds } from './lineNight'
import { mediumClasses } from './mediumTable'
import { frameQueue } from './queues'
import { chanceOf } from './random'
import { wilson } from './wilson'
import { runsOf } from '../../tests/tier'

const sample = (
  second: number,
  uploadKbps: number,
  medium: LineSample['medium'] = 'cable',
): LineSample => ({
  id: `s${second}`,
  measuredAt: new Date(Date.UTC(2026, 11, 11, 21, 0, second)).toISOString(),
  uploadKbps,
  medium,
  roundTripMilliseconds: null,
  lossPercent: null,
  retransmits: null,
  note: '',
})

/** A run of a first-order autoregressive process about 10,000 kb/s. */
function autoregressive(count: number, deviation: number, inertia: number, seed: number): number[] {
  const { normal } = chanceOf(seed, 0, 'wander')
  let away = deviation * normal()
  return Array.from({ length: count }, () => {
    const kbps = 10_000 * (1 + away)
    away = inertia * away + deviation * Math.sqrt(1 - inertia * inertia) * normal()
    return kbps
  })
}

describe('Wilson’s interval (1927)', () => {
  // Published values as written down from memory: Brown, Cai and DasGupta 2001 and common tables.
  it.each([
    [93, 100, 0.863, 0.966],
    [10, 10, 0.722, 1],
    [0, 100, 0, 0.037],
  ])('%i of %i', (clean, nights, low, high) => {
    const interval = wilson(clean, nights)
    expect(interval.low).toBeCloseTo(low, 3)
    expect(interval.high).toBeCloseTo(high, 3)
  })

  it('holds the share, and is all of it where nothing is known', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 2000 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (nights, part) => {
          const clean = Math.round(nights * part)
          const { share, low, high } = wilson(clean, nights)
          expect(low).toBeLessThanOrEqual(share + 1e-12)
          expect(high).toBeGreaterThanOrEqual(share - 1e-12)
        },
      ),
    )
    expect(wilson(0, 0)).toEqual({ share: 0, low: 0, high: 1 })
  })
})

describe('chance', () => {
  it('is uniform and normal (moments against a general library, d3-array)', () => {
    const { uniform, normal } = chanceOf(1, 2, 'wander')
    const uniforms = Array.from({ length: 40_000 }, uniform)
    expect(mean(uniforms)).toBeCloseTo(0.5, 2)
    expect(sampleDeviation(uniforms)).toBeCloseTo(Math.sqrt(1 / 12), 2)
    const normals = Array.from({ length: 40_000 }, normal)
    expect(mean(normals)!).toBeCloseTo(0, 1)
    expect(sampleDeviation(normals)).toBeCloseTo(1, 1)
    expect(normals.filter((value) => Math.abs(value) < 1.96).length / 40_000).toBeCloseTo(0.95, 2)
  })
})

describe('outages and bursts (Gilbert 1960, Elliott 1963)', () => {
  it('have the stationary share p / (p + r) and the mean length 1 / r', () => {
    const steps = 4_000_000
    const [everySeconds, lengthSeconds] = [30, 4]
    let bad = 0
    let count = 0
    eachSpan(
      steps,
      { everySeconds, lengthSeconds },
      chanceOf(3, 1, 'outages').uniform,
      (from, to) => {
        bad += to - from
        count += 1
      },
    )
    const [p, r] = [stepSeconds / everySeconds, stepSeconds / lengthSeconds]
    expect(bad / steps / (p / (p + r))).toBeCloseTo(1, 1)
    expect((bad / count) * r).toBeCloseTo(1, 1)
  })
})

describe('the wander (Box and Jenkins)', () => {
  it('has the variance and the autocorrelation φ^k of its process', () => {
    const model = {
      ...mediumClasses.cable,
      deviation: 0.1,
      inertia: 0.8,
      levelDeviation: 0,
      outages: { everySeconds: 1e15, lengthSeconds: 1 },
      levels: [{ kbps: 10_000, weight: 1 }],
      medium: 'cable' as const,
      basis: [],
    }
    const { capacityKbps } = lineNight(model, 40_000, 1, 1)
    const seconds = Array.from(
      { length: 40_000 },
      (_, second) => capacityKbps[second * 10]! / 10_000 - 1,
    )
    const variance = mean(seconds.map((value) => value * value))!
    expect(Math.sqrt(variance)).toBeCloseTo(0.1, 2)
    for (const lag of [1, 2, 3]) {
      const products = seconds.slice(lag).map((value, index) => value * seconds[index]!)
      expect(mean(products)! / variance).toBeCloseTo(0.8 ** lag, 1)
    }
  })

  it('is estimated back from what it made', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.02, max: 0.15, noNaN: true }),
        fc.double({ min: 0.3, max: 0.95, noNaN: true }),
        fc.integer({ min: 0, max: 1000 }),
        (deviation, inertia, seed) => {
          const found = wanderOf([autoregressive(8000, deviation, inertia, seed)])
          expect(Math.abs(found.deviation / deviation - 1)).toBeLessThan(0.2)
          expect(Math.abs(found.inertia - inertia)).toBeLessThan(0.08)
        },
      ),
      { numRuns: runsOf(20) },
    )
  })
})

describe('a model of one’s own line', () => {
  const line = lineOf(demoShow)

  it('takes the measurements near the hour of the show, and says so', () => {
    const model = lineModelOf(line, 21)
    expect(model.levels.length).toBeGreaterThanOrEqual(5)
    expect(model.basis[0]).toMatch(/within two hours/)
    expect(model.basis.join()).toMatch(/usual of cable/)
  })

  it('takes seconds in a row for the wander, and stalled ones for outages', () => {
    const rates = [...autoregressive(300, 0.06, 0.7, 4)]
    rates.fill(0, 100, 104)
    rates.fill(0, 200, 206)
    const samples = rates.map((kbps, second) => sample(second, kbps))
    const own: Line = { ...line, medium: 'cable', samples }
    const model = lineModelOf(own, 21)
    expect(model.deviation).toBeGreaterThan(0.04)
    expect(model.deviation).toBeLessThan(0.09)
    // Two outages of 4 and 6 s in 300 s: every (300 − 10) / 2 s, 5 s long.
    expect(model.outages).toEqual({ everySeconds: 145, lengthSeconds: 5 })
    expect(model.levels.every(({ kbps }) => kbps > 0)).toBe(true)
    expect(model.basis.join()).toMatch(/300 seconds measured in a row/)
  })

  it('takes nothing for a run that is none', () => {
    const apart = Array.from({ length: 40 }, (_, index) => sample(index * 60, 9000))
    expect(secondsInARow(apart)).toEqual([])
    expect(outagesOf([[5, 5, 5]])).toBeNull()
  })
})

describe('a queue of frames', () => {
  it('waits as M/D/1 says, ρ / (2μ(1 − ρ)), and keeps Little’s law L = λW', () => {
    // Poisson arrivals of frames of 10 kbit on a line of 1000 kbit/s: μ = 100 a second.
    const { uniform } = chanceOf(9, 1, 'wander')
    const [rho, mu, tick] = [0.7, 100, 0.0005]
    const queue = frameQueue()
    const arrivals: number[] = []
    let next = 0
    let waited = 0
    let left = 0
    let area = 0
    const ticks = 4_000_000
    for (let number = 0; number < ticks; number += 1) {
      const now = number * tick
      while (next <= now) {
        queue.add(10, 1)
        arrivals.push(next)
        next += -Math.log(1 - uniform()) / (rho * mu)
      }
      const gone = queue.take(10 * mu * tick)
      for (let count = 0; count < gone; count += 1) {
        waited += now + tick - arrivals[left]!
        left += 1
      }
      area += queue.frames * tick
    }
    const wait = waited / left - 1 / mu
    expect(wait / (rho / (2 * mu * (1 - rho)))).toBeCloseTo(1, 1)
    const seconds = ticks * tick
    expect(area / seconds / ((left / seconds) * (waited / left))).toBeCloseTo(1, 1)
  }, 30_000)

  it('loses and gives back exactly what was put in', () => {
    const actions = fc.array(
      fc.oneof(
        fc.double({ min: 0.1, max: 50, noNaN: true }).map((kbit) => ({ add: kbit })),
        fc.double({ min: 0, max: 80, noNaN: true }).map((kbit) => ({ take: kbit })),
        fc.double({ min: 0, max: 60, noNaN: true }).map((kbit) => ({ cut: kbit })),
        fc.constant({ clear: true }),
      ),
      { maxLength: 400 },
    )
    fc.assert(
      fc.property(actions, (list) => {
        const queue = frameQueue()
        let put = 0
        let out = 0
        for (const action of list) {
          if ('add' in action) {
            queue.add(action.add, 1)
            put += 1
          } else if ('take' in action) out += queue.take(action.take)
          else if ('cut' in action) out += queue.cutTo(action.cut)
          else out += queue.clear()
          expect(queue.frames).toBe(put - out)
          expect(queue.kbit).toBeGreaterThan(-1e-6)
        }
      }),
    )
  })
})
