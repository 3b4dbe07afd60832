import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { runToEnd } from '../runToEnd'
import { branchAndBound } from './branchAndBound'
import { leastShortfall } from './shortfall'
import { allInPlay, bestOf, fitting, members, problem, resources, written } from './testColumns'
import { runsOf } from '../../../tests/tier'

describe('the search', () => {
  it('finds the plan that trying every one finds, and proves it', () => {
    fc.assert(
      fc.property(problem, ({ components, capacity }) => {
        const subproblems = allInPlay(written(components))
        const { found, status } = runToEnd(branchAndBound(subproblems, resources(capacity)))
        expect(status.name).toBe(found ? 'optimal' : 'infeasible')
        const best = bestOf(
          fitting(components, capacity).map((plan) =>
            plan.reduce((sum, { value }) => sum + value, 0),
          ),
        )
        expect(found?.value ?? null).toBe(best)
      }),
      { numRuns: runsOf(1000) },
    )
  })

  it('leaves alone what is there already, unless the best is worth more by its margin', () => {
    const amounts = fc.tuple(fc.integer({ min: -20, max: 60 }), fc.integer({ min: 0, max: 20 }))
    fc.assert(
      fc.property(problem, amounts, ({ components, capacity }, [value, margin]) => {
        const subproblems = allInPlay(written(components))
        const { found, upper, status } = runToEnd(
          branchAndBound(subproblems, resources(capacity), null, { incumbent: { value, margin } }),
        )
        const best = bestOf(
          fitting(components, capacity).map((plan) =>
            plan.reduce((sum, { value }) => sum + value, 0),
          ),
        )
        const isBeaten = best !== null && best > value + margin
        // What is worth more by just so much may be taken or not.
        if (best !== value + margin) expect(found?.value ?? null).toBe(isBeaten ? best : null)
        expect(status.name).toBe('optimal')
        expect(upper).toBeGreaterThanOrEqual(best ?? -Infinity)
      }),
      { numRuns: runsOf(500) },
    )
  })

  it.each(['leftOutWeight', 'below'] as const)('finds the least that falls short, %s', (aim) => {
    fc.assert(
      fc.property(problem, ({ components, capacity: drawn }) => {
        const all = written(components)
        // Whoever is below the floor does not matter until it is settled who is left out.
        const capacity = aim === 'below' ? drawn : [...drawn.slice(0, -1), members * 2]
        const { found, status } = runToEnd(leastShortfall(all, aim, resources(capacity)))
        expect(status.name).toBe(found ? 'optimal' : 'infeasible')
        const least = bestOf(
          fitting(components, capacity).map((plan) =>
            plan.reduce((sum, { drawn }) => sum - drawn[aim], 0),
          ),
        )
        const short = found?.chosen.reduce(
          (sum, { subproblem, column: chosen }) => sum - all.components[subproblem]![aim][chosen]!,
          0,
        )
        expect(short ?? null).toBe(least)
      }),
      { numRuns: runsOf(500) },
    )
  })
})
