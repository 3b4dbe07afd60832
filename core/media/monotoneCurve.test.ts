import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { monotoneCurve } from './monotoneCurve'

describe('a curve that never falls', () => {
  // Hand-worked: steps of slope 3 and 1, both of length 1. Slopes: 3·2/(3/3 + 3/1) = 1.5 in the middle,
  // (3·3 − 1)/2 = 4 at the left end, (3·1 − 3)/2 = 0 at the right. At 0.5: 3/2 + (4 − 1.5)/8.
  it('is the cubic that its slopes say', () => {
    const curve = monotoneCurve({ places: [0, 1, 2], values: [0, 3, 4] })
    expect(curve(0.5)).toBeCloseTo(1.5 + 2.5 / 8, 12)
    expect(curve(1.5)).toBeCloseTo(3.5 + 1.5 / 8, 12)
  })

  it('is straight between two points, and level beyond the ends', () => {
    const curve = monotoneCurve({ places: [1, 3], values: [10, 20] })
    expect([0, 1, 2, 3, 4].map(curve)).toEqual([10, 10, 15, 20, 20])
    expect(monotoneCurve({ places: [1], values: [7] })(5)).toBe(7)
  })

  it('goes through its points and never falls between them', () => {
    const rise = fc.double({ min: 0, max: 10, noNaN: true })
    const gap = fc.double({ min: 0.01, max: 5, noNaN: true })
    fc.assert(
      fc.property(fc.array(fc.tuple(gap, rise), { minLength: 1, maxLength: 8 }), (drawn) => {
        let [place, value] = [0, 0]
        const points = drawn.map(([along, up]) => [(place += along), (value += up)] as const)
        const curve = monotoneCurve({
          places: points.map(([x]) => x),
          values: points.map(([, y]) => y),
        })
        for (const [x, y] of points) expect(curve(x)).toBeCloseTo(y, 9)
        let before = -Infinity
        for (let share = -0.1; share < 1.1; share += 0.01) {
          const now = curve(points[0]![0] + share * (place - points[0]![0]))
          expect(now).toBeGreaterThanOrEqual(before - 1e-9)
          before = now
        }
      }),
    )
  })
})
