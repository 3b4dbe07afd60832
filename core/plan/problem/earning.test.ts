import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isSmaller, withEarnings } from './earning'
import type { Choice, Shape } from './problem'

const shape = (height: number, framesPerSecond: Shape['framesPerSecond'] = 30): Shape => ({
  canvas: 'landscape',
  width: Math.round((height * 16) / 9),
  height,
  framesPerSecond,
  codec: 'h264',
  effort: 'fine',
})
const choice = (index: number, scores: readonly number[], first = 0): Choice => ({
  shape: index,
  first,
  scores: Int32Array.from(scores),
  earned: null,
  wireKbps: new Int32Array(first + scores.length),
  diskMegabytes: null,
})
const earnedOf = (choices: readonly Choice[], shapes: readonly Shape[], floorUnits = 0) =>
  withEarnings(choices, shapes, { marginUnits: 200, floorUnits }).map(({ earned }) =>
    earned === null ? null : [...earned],
  )

describe('a larger size', () => {
  const shapes = [shape(720), shape(1080), shape(1440)]

  it('has earned its place from where it is worth the margin more', () => {
    const small = choice(0, [7000, 7500, 7800])
    expect(earnedOf([small, choice(1, [7100, 7700, 8100])], shapes)).toEqual([null, [0, 1, 1]])
  })

  it('is held against the smaller ones that have earned theirs, not against those that have not', () => {
    // The second is 150 above the first, the third 300 above it and 150 above the second.
    const all = [choice(0, [7000]), choice(1, [7150]), choice(2, [7300])]
    expect(earnedOf(all, shapes)).toEqual([null, [0], [1]])
  })

  it('is held against the best that the smaller one can be at no higher a bitrate', () => {
    // The smaller one ends where more no longer helps, or where its level does.
    expect(earnedOf([choice(0, [8000]), choice(1, [8100, 8150, 8200])], shapes)).toEqual([
      null,
      [0, 0, 1],
    ])
    // Where the smaller one is not accepted yet there is nothing to be held against.
    expect(earnedOf([choice(0, [8000], 1), choice(1, [8100, 8100])], shapes)).toEqual([
      null,
      [1, 0],
    ])
  })

  it('has earned its place where it alone reaches the floor', () => {
    const all = [choice(0, [4950, 5050]), choice(1, [5000, 5100])]
    expect(earnedOf(all, shapes, 5000)).toEqual([null, [1, 0]])
  })

  it('is no larger for another codec, nor is a smaller picture at a higher rate', () => {
    expect(isSmaller(shape(720), shape(720, 60))).toBe(true)
    expect(isSmaller(shape(720), { ...shape(1080), codec: 'hevc' })).toBe(false)
    expect(isSmaller(shape(720, 60), shape(1080, 30))).toBe(false)
    expect(isSmaller(shape(720), shape(720))).toBe(false)
  })

  it('is never given up where that costs the margin', () => {
    const scores = fc.array(fc.integer({ min: 0, max: 10_000 }), { minLength: 6, maxLength: 6 })
    const ascending = scores.map((list) => [...list].sort((a, b) => a - b))
    fc.assert(
      fc.property(fc.array(ascending, { minLength: 1, maxLength: 5 }), (lists) => {
        const sizes = lists.map((_, index) => shape(360 + 180 * index))
        const made = withEarnings(
          lists.map((list, index) => choice(index, list)),
          sizes,
          { marginUnits: 200, floorUnits: 0 },
        )
        for (let at = 0; at < 6; at += 1) {
          const best = Math.max(...lists.map((list) => list[at]!))
          const allowed = made.flatMap(({ scores: own, earned }) =>
            [...own].slice(0, at + 1).filter((_, place) => earned === null || earned[place] === 1),
          )
          expect(Math.max(...allowed)).toBeGreaterThan(best - 200)
        }
      }),
    )
  })
})
