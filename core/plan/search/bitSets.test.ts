import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isIn, isSubset, lowestIn, maxInSet, setBelow, setOf } from './bitSets'

const numbers = fc.uniqueArray(fc.integer({ min: 0, max: maxInSet - 1 }), { maxLength: maxInSet })

describe('sets of numbers as one number', () => {
  it('hold what the language’s own sets hold, to the last number', () => {
    fc.assert(
      fc.property(numbers, numbers, (some, others) => {
        const [own, other] = [new Set(some), new Set(others)]
        for (let number = 0; number < maxInSet; number += 1)
          expect(isIn(setOf(some), number)).toBe(own.has(number))
        expect(lowestIn(setOf(some))).toBe(some.length > 0 ? Math.min(...some) : -1)
        expect(isSubset(setOf(some), setOf(others))).toBe(some.every((each) => other.has(each)))
        const both = some.filter((each) => other.has(each))
        expect(isSubset(setOf(both), setOf(some))).toBe(true)
        expect(setOf(some) - setOf(both)).toBe(setOf(some.filter((each) => !other.has(each))))
      }),
    )
    expect(setBelow(maxInSet)).toBe(setOf(Array.from({ length: maxInSet }, (_, each) => each)))
    expect(lowestIn(0)).toBe(-1)
  })
})
