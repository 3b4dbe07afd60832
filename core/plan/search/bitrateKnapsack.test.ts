import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { rememberedKnapsack, solveKnapsack } from './bitrateKnapsack'
import { CurveWriter, type Curves } from './curves'
import { runsOf } from '../../../tests/tier'

/** Curves that rise and flatten, with the unevenness that rounding gives. */
const drawn = fc.array(
  fc.record({
    start: fc.integer({ min: 20, max: 90 }),
    step: fc.integer({ min: 5, max: 60 }),
    gains: fc.array(fc.integer({ min: -2, max: 40 }), { minLength: 1, maxLength: 7 }),
  }),
  { minLength: 1, maxLength: 5 },
)

function curvesFrom(shapes: readonly { start: number; step: number; gains: number[] }[]): Curves {
  const writer = new CurveWriter()
  for (const { start, step, gains } of shapes) {
    let value = 100
    ;[...gains]
      .sort((a, b) => b - a)
      .forEach((gain, index) => {
        value += gain * 10 + (index % 3)
        writer.add(start + index * step, value, index)
      })
    writer.end()
  }
  return writer.finish()
}

/** Every choice of a point of each curve, tried out. */
function bestByEnumeration({ first, wire, value }: Curves, uploadKbps: number): number | null {
  let sums = [{ wire: 0, value: 0 }]
  for (let curve = 0; curve + 1 < first.length; curve += 1)
    sums = sums.flatMap((sum) =>
      Array.from({ length: first[curve + 1]! - first[curve]! }, (_, index) => {
        const point = first[curve]! + index
        return { wire: sum.wire + wire[point]!, value: sum.value + value[point]! }
      }),
    )
  const fitting = sums.filter((sum) => sum.wire <= uploadKbps)
  return fitting.length > 0 ? Math.max(...fitting.map((sum) => sum.value)) : null
}

describe('settling bitrates', () => {
  it('finds what trying every choice finds', () => {
    fc.assert(
      fc.property(drawn, fc.integer({ min: 10, max: 900 }), (shapes, uploadKbps) => {
        const curves = curvesFrom(shapes)
        const chosen = shapes.map((_, curve) => curve)
        const best = bestByEnumeration(curves, uploadKbps)
        const settled = solveKnapsack(curves, chosen, uploadKbps, -Infinity)
        expect(settled?.value ?? null).toBe(best)
        if (!settled || best === null) return
        const taken = settled.points.reduce((sum, point) => sum + curves.wire[point]!, 0)
        const worth = settled.points.reduce((sum, point) => sum + curves.value[point]!, 0)
        expect(taken).toBeLessThanOrEqual(uploadKbps)
        expect(worth).toBe(best)
        expect(solveKnapsack(curves, chosen, uploadKbps, best)?.value).toBe(best)
        expect(solveKnapsack(curves, chosen, uploadKbps, best + 0.5)).toBeNull()
      }),
      { numRuns: runsOf(400) },
    )
  })

  it('may take the same curve more than once', () => {
    const curves = curvesFrom([{ start: 50, step: 50, gains: [30, 20, 10] }])
    expect(
      solveKnapsack(curves, [0, 0], 250, 0)
        ?.points.map((p) => curves.wire[p])
        .sort(),
    ).toEqual([100, 150])
  })

  it('ends also where the floor is no number', () => {
    const curves = curvesFrom([{ start: 50, step: 50, gains: [30, 20, 10] }])
    expect(solveKnapsack(curves, [0, 0], 250, NaN)).toBeNull()
  })

  it('says the same from what it remembers, in whatever order and above whatever floor it is asked', () => {
    const questions = fc.array(
      fc.record({
        turned: fc.boolean(),
        shareOfBest: fc.double({ min: 0.9, max: 1.1, noNaN: true }),
      }),
      { minLength: 2, maxLength: 6 },
    )
    fc.assert(
      fc.property(drawn, fc.integer({ min: 10, max: 900 }), questions, (shapes, upload, asked) => {
        // Each curve twice, as two encodes that differ in their devices have it.
        const curves = curvesFrom(shapes)
        const chosen = shapes.flatMap((_, curve) => [curve, curve])
        const remembered = rememberedKnapsack(curves, upload)
        const best = solveKnapsack(curves, chosen, upload, -Infinity)
        for (const { turned, shareOfBest } of asked) {
          const own = turned ? [...chosen].reverse() : chosen
          const floor = (best?.value ?? 0) * shareOfBest
          const answer = remembered(own, floor, { looks: 0 })
          expect(answer?.value).toBe(solveKnapsack(curves, own, upload, floor)?.value)
          answer?.points.forEach((point, index) => {
            expect(point).toBeGreaterThanOrEqual(curves.first[own[index]!]!)
            expect(point).toBeLessThan(curves.first[own[index]! + 1]!)
          })
          const taken = answer?.points.reduce((sum, point) => sum + curves.wire[point]!, 0) ?? 0
          expect(taken).toBeLessThanOrEqual(upload)
        }
      }),
      { numRuns: runsOf(300) },
    )
  })
})
