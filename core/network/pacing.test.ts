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
const nothing = { creditBytes: 0, waitingBytes: 0 }

describe('the credit of paced connections', () => {
  it('is the line’s capacity, shared: 8000 kb/s for 25 ms are 25,000 bytes', () => {
    expect(creditsAfter([nothing], second, 25)).toEqual([25_000])
    expect(creditsAfter([nothing, nothing], second, 25)).toEqual([12_500, 12_500])
    expect(creditsAfter([], second, 25)).toEqual([])
  })

  it('is lost after four ticks, but for what one waiting needs', () => {
    expect(creditsAfter([{ creditBytes: 100_000, waitingBytes: 0 }], second, 25)).toEqual([100_000])
    const large = { creditBytes: 100_000, waitingBytes: 1_000_000 }
    expect(creditsAfter([large], second, 25)).toEqual([125_000])
  })

  it('is never more in all than the line carries', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 20 }),
        fc.integer({ min: 1, max: 1000 }),
        (count, ms) => {
          const credits = creditsAfter(Array(count).fill(nothing), second, ms)
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
