import { describe, expect, it } from 'vitest'
import { shareInTime, triedInWords } from './tried'

describe('a try of drawing and encoding', () => {
  it.each([
    [{ drawn: 1000, lateByDrawing: 0, lateByEncoder: 0 }, 1],
    [{ drawn: 900, lateByDrawing: 100, lateByEncoder: 0 }, 0.9],
    [{ drawn: 900, lateByDrawing: 100, lateByEncoder: 50 }, 0.85],
    [{ drawn: 10, lateByDrawing: 0, lateByEncoder: 40 }, 0],
    [{ drawn: 0, lateByDrawing: 0, lateByEncoder: 0 }, 0],
  ])('%o is in time to %d', (tried, share) => {
    expect(shareInTime(tried)).toBeCloseTo(share, 10)
  })

  it('is well with hardly a frame late, and else says what is too much', () => {
    expect(triedInWords({ drawn: 1198, lateByDrawing: 2, lateByEncoder: 0 })).toEqual({
      isWell: true,
      words: '99.8 % of 1,200 frames were in time: this computer draws and encodes this show.',
    })
    expect(triedInWords({ drawn: 300, lateByDrawing: 900, lateByEncoder: 10 }).words).toMatch(
      /^24\.2 % of 1,200 .*Drawing is too much/,
    )
    expect(triedInWords({ drawn: 1200, lateByDrawing: 0, lateByEncoder: 90 }).words).toMatch(
      /Encoding is too much/,
    )
    expect(triedInWords({ drawn: 0, lateByDrawing: 0, lateByEncoder: 0 }).isWell).toBe(false)
  })
})
