import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { maxMinShares } from '../network'
import { conserves, night, run, send, steady } from './nightsForTests'
import { pictureGroup } from './pictureGroup'
import { shareOut } from './sharing'
import { inSteps } from './ways'

describe('its parts', () => {
  it('shares as the network room does (max-min)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 100, noNaN: true }), { minLength: 1, maxLength: 8 }),
        fc.double({ min: 0, max: 300, noNaN: true }),
        (demands, capacity) => {
          const shares = Float64Array.from(demands)
          shareOut(
            shares,
            Uint16Array.from(demands, (_, index) => index),
            capacity,
          )
          const wanted = maxMinShares(demands, capacity)
          shares.forEach((share, index) => expect(share).toBeCloseTo(wanted[index]!, 9))
        },
      ),
    )
  })

  it('shares among more than a byte counts: fifty destinations with ladders of three and two ingests', () => {
    const shares = new Float64Array(300).fill(10)
    shareOut(
      shares,
      Uint16Array.from(shares, (_, index) => index),
      1500,
    )
    expect(Math.min(...shares)).toBeCloseTo(5, 9)
    const many = Array.from({ length: 300 }, (_, index) =>
      send({ key: `${index}`, name: `${index}`, destinationId: `${index}`, fullKbps: 100 }),
    )
    const plan = night({ seconds: 20, line: steady(20_000), sends: many })
    conserves(run(plan, inSteps))
  })

  it('makes groups of pictures that come to the bitrate, with a keyframe of three to eight mean frames', () => {
    for (const [frames, bFrames] of [
      [60, 2],
      [120, 0],
      [48, 3],
    ] as const) {
      const group = pictureGroup(frames, bFrames)
      expect(group.reduce((sum, size) => sum + size, 0)).toBeCloseTo(frames, 9)
      expect(group[0]).toBeGreaterThanOrEqual(3)
      expect(group[0]).toBeLessThanOrEqual(8)
    }
  })
})
