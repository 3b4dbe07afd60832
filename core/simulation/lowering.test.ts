import { describe, expect, it } from 'vitest'
import { defaultSending } from '../show'
import { neverLowered, nextShare } from './lowering'

const sending = {
  ...defaultSending,
  ...{ whenBehind: 'lower' as const, lowerAfterSeconds: 1, lowerToPercent: 70 },
  ...{ raiseByPercent: 10, leastPercent: 40 },
}
const tick = 0.25

/** The share at each quarter of a second, by what waits then. */
function shares(waits: readonly number[]): number[] {
  const lowering = neverLowered()
  return waits.map((waitSeconds, index) => {
    lowering.share = nextShare(lowering, sending, {
      waitSeconds,
      ...{ seconds: tick, now: index * tick },
    })
    return Math.round(lowering.share * 1000) / 1000
  })
}
const during = (seconds: number, wait: number): number[] =>
  Array.from({ length: seconds / tick }, () => wait)

describe('a sender that lowers', () => {
  it('stays whole while little waits', () => {
    expect(new Set(shares(during(20, 0.9)))).toEqual(new Set([1]))
  })

  it('lowers once a second by its share, and never under its least', () => {
    const out = shares(during(5, 2))
    expect(out.filter((_, index) => index % 4 === 0)).toEqual([0.7, 0.49, 0.4, 0.4, 0.4])
    expect(out.slice(0, 4)).toEqual([0.7, 0.7, 0.7, 0.7])
  })

  it('raises after four clear seconds, then a step a second, and is whole again', () => {
    const out = shares([...during(1, 2), ...during(8, 0)])
    expect(out[4 + 14]).toBe(0.7)
    expect(out[4 + 15]).toBe(0.8)
    expect(out[4 + 18]).toBe(0.8)
    expect(out[4 + 19]).toBe(0.9)
    expect(out[4 + 23]).toBe(1)
  })

  it('waits for the line to be clear anew after a keyframe too many', () => {
    const out = shares([...during(1, 2), ...during(3, 0), 0.5, ...during(3.75, 0)])
    expect(new Set(out)).toEqual(new Set([0.7]))
  })
})
