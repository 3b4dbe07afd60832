import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { linedUp } from './linedUp'

const samples = 64
const anyFrame = fc.uint8Array({ minLength: samples, maxLength: samples })
const anyOriginal = fc.array(anyFrame, { minLength: 8, maxLength: 40 })

describe('a stretch of frames', () => {
  it('is found where it was taken, whatever a codec made of it and wherever the loop began anew', () => {
    fc.assert(
      fc.property(
        anyOriginal,
        fc.nat(39),
        fc.constantFrom(1, 2),
        fc.uint8Array({ minLength: samples, maxLength: samples, max: 6 }),
        (original, wanted, every, losses) => {
          const from = wanted % original.length
          const taken = Array.from(
            { length: 4 },
            (_, index) => original[(from + index * every) % original.length]!,
          )
          const stretch = taken.map((frame) =>
            frame.map((value, sample) => Math.max(0, value - losses[sample]!)),
          )
          const found = linedUp(stretch, original, every)!
          // Another place may be as alike by chance, never more than the right one.
          const there = Array.from(
            { length: 4 },
            (_, index) => original[(found.start + index * every) % original.length]!,
          )
          if (there.some((frame, index) => frame !== taken[index]))
            expect(found.difference).toBeLessThan(6)
          else expect(found.difference).toBeLessThanOrEqual(6)
        },
      ),
    )
  })

  it('of something else is not found, and neither is none', () => {
    const dark = Array.from({ length: 10 }, () => new Uint8Array(samples))
    const bright = Array.from({ length: 3 }, () => new Uint8Array(samples).fill(200))
    expect(linedUp(bright, dark, 1)).toBeNull()
    expect(linedUp([], dark, 1)).toBeNull()
    expect(linedUp(bright, [], 1)).toBeNull()
  })
})
