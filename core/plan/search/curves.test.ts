import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CurveWriter, minPoint, pointAtPrice } from './curves'

/** Points in the order of their wire rates. */
const drawn = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: -50, max: 500 })), {
    minLength: 1,
    maxLength: 30,
  })
  .map((points) => points.sort((a, b) => a[0] - b[0]))

function written(curvesOfPoints: readonly (readonly (readonly [number, number])[])[]) {
  const writer = new CurveWriter()
  for (const points of curvesOfPoints) {
    points.forEach(([wire, value], bitrate) => writer.add(wire, value, bitrate))
    writer.end()
  }
  return writer.finish()
}

describe('a curve', () => {
  it('has the point that is worth most at any price on its hull', () => {
    fc.assert(
      fc.property(
        fc.array(drawn, { minLength: 1, maxLength: 4 }),
        fc.double({ min: 0, max: 100, noNaN: true }),
        (all, price) => {
          const curves = written(all)
          all.forEach((points, curve) => {
            const point = pointAtPrice(curves, curve, price)
            const best = Math.max(...points.map(([wire, value]) => value - price * wire))
            expect(curves.value[point]! - price * curves.wire[point]!).toBeCloseTo(best, 8)
          })
        },
      ),
    )
  })

  it('keeps what no cheaper point equals, and nothing else', () => {
    fc.assert(
      fc.property(drawn, (points) => {
        const { wire, value } = written([points])
        const kept = [...wire].map((each, index) => [each, value[index]])
        const unbeaten = points.filter(
          ([ownWire, own], index) =>
            !points.some(
              ([otherWire, other], at) =>
                otherWire <= ownWire &&
                other >= own &&
                (otherWire < ownWire || other > own || at < index),
            ),
        )
        expect(kept).toEqual(unbeaten)
      }),
    )
  })

  it('begins with what takes least, and is none without points', () => {
    const writer = new CurveWriter()
    expect(writer.end()).toBeNull()
    writer.add(10, 1, 4)
    writer.add(20, 2, 5)
    expect(writer.end()).toBe(0)
    const curves = writer.finish()
    expect(curves.bitrate[minPoint(curves, 0)]).toBe(4)
  })
})
