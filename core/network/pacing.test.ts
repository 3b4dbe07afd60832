import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { creditsAfter } from './pacing'
import { practiceLines, practiceSecondAt, practiceSeconds } from './practiceLine'

const second = {
  capacityKbps: 8000,
  roundTripMilliseconds: 20,
  lossPercent: 0,
  state: 'steady' as const,
}
const waiting = { creditBytes: 0, waitingBytes: 1, isStream: true }
const idle = { creditBytes: 3000, waitingBytes: 0, isStream: true }

describe('the credit of paced connections', () => {
  it('is the line’s capacity, shared: 8000 kb/s for 25 ms are 25,000 bytes', () => {
    expect(creditsAfter([waiting], second, 25)).toEqual([25_000])
    expect(creditsAfter([waiting, waiting], second, 25)).toEqual([12_500, 12_500])
    expect(creditsAfter([], second, 25)).toEqual([])
  })

  it('is lost after four ticks, but for what one waiting needs', () => {
    expect(creditsAfter([{ ...waiting, creditBytes: 100_000 }], second, 25)).toEqual([100_000])
    const large = { ...waiting, creditBytes: 100_000, waitingBytes: 1_000_000 }
    expect(creditsAfter([large], second, 25)).toEqual([125_000])
  })

  it('goes to those that wait: what one does not need the others have', () => {
    expect(creditsAfter([waiting, idle, waiting], second, 25)).toEqual([12_500, 3000, 12_500])
  })

  it('holds a stream to the TCP ceiling of its path, and datagrams to nothing but the line', () => {
    // 1448 · 8 / 0.1 s · √1.5 / √0.01 = 1419 kb/s, 4434 bytes in 25 ms (Mathis et al. 1997).
    const lossy = { ...second, roundTripMilliseconds: 100, lossPercent: 1 }
    const [stream, datagrams] = creditsAfter([waiting, { ...waiting, isStream: false }], lossy, 25)
    expect(stream).toBeCloseTo(4434, -1)
    expect(datagrams).toBeCloseTo(25_000 - 4434, -1)
  })

  it('is never more in all than the line carries', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 20 }),
        fc.integer({ min: 1, max: 1000 }),
        (count, ms) => {
          const credits = creditsAfter(Array(count).fill(waiting), second, ms)
          const all = credits.reduce((sum, credit) => sum + credit, 0)
          expect(all).toBeLessThanOrEqual((8000 * ms) / 8 + 1e-6)
        },
      ),
    )
  })
})

it('a practice line stays as it was after its end', () => {
  const seconds = practiceSeconds(practiceLines.fibre, { seed: 1, startHour: 12, count: 3 })
  expect(practiceSecondAt(seconds, 1500)).toBe(seconds[1])
  expect(practiceSecondAt(seconds, 99_000)).toBe(seconds[2])
  expect(practiceSecondAt([], 0)).toBeUndefined()
})
