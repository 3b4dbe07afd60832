import { runToEnd } from '../runToEnd'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Columns } from './columns'
import { CurveWriter } from './curves'
import { setOf } from './bitSets'
import { bestAround, bestPaths, canBeHeld, fullState, subproblemOf } from './subproblems'

const members = 5
const full = (1 << members) - 1

/** A component with one column of each mask, and what each is worth. */
const drawn = fc
  .uniqueArray(fc.integer({ min: 1, max: full }), { minLength: 1, maxLength: 20 })
  .chain((masks) =>
    fc.record({
      masks: fc.constant(masks.sort((a, b) => a - b)),
      worths: fc.array(fc.integer({ min: -20, max: 50 }), {
        minLength: masks.length,
        maxLength: masks.length,
      }),
    }),
  )

function partWith(masks: readonly number[]) {
  const columns = {
    members: Array.from({ length: members }, (_, member) => member),
    count: masks.length,
    mask: Float64Array.from(masks),
  } as unknown as Columns
  return runToEnd(subproblemOf(columns, new CurveWriter().finish(), Int32Array.from(masks.keys())))
}

/** Every way to make up the whole of disjoint sets, as places in `masks`. */
function partitions(masks: readonly number[], left = full): number[][] {
  if (left === 0) return [[]]
  const lowest = left & -left
  return [...masks.entries()].flatMap(([index, mask]) =>
    (mask & lowest) !== 0 && (mask & ~left) === 0
      ? partitions(masks, left ^ mask).map((rest) => [index, ...rest])
      : [],
  )
}

describe('the states of a component', () => {
  it('give the best partition, and the best around every set', () => {
    fc.assert(
      fc.property(drawn, ({ masks, worths }) => {
        const subproblem = partWith(masks)
        const worthOfSet = Float64Array.from(worths)
        const { best } = bestPaths(subproblem, worthOfSet)
        const around = bestAround(subproblem, worthOfSet, best)
        const sums = partitions(masks).map((sets) => ({
          sets,
          worth: sets.reduce((sum, set) => sum + worths[set]!, 0),
        }))
        expect(best[fullState(subproblem)]).toBe(
          Math.max(-Infinity, ...sums.map(({ worth }) => worth)),
        )
        masks.forEach((_, set) => {
          const withIt = sums.filter(({ sets }) => sets.includes(set))
          const most = Math.max(-Infinity, ...withIt.map(({ worth }) => worth))
          expect(around[set]! + worths[set]!).toBe(most)
        })
      }),
    )
  })

  it('are only those that can be reached', () => {
    const subproblem = partWith([0b00001, 0b00110, 0b11000])
    expect([...subproblem.states]).toEqual([0b00000, 0b11000, 0b11110, 0b11111])
  })

  it('is too much to hold where too many sets overlap, and not where they are runs', () => {
    const count = 40
    const places = Array.from({ length: count }, (_, place) => place)
    const runs = places.flatMap((from) =>
      places.slice(from).map((to) => setOf(places.slice(from, to + 1))),
    )
    const pairs = places.flatMap((one) =>
      places.slice(one).map((two) => setOf([...new Set([one, two])])),
    )
    expect(runToEnd(canBeHeld(runs, count))).toBe(true)
    expect(runToEnd(canBeHeld(pairs, count))).toBe(false)
  })
})
