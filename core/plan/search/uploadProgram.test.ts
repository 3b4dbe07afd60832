import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { runToEnd } from '../runToEnd'
import { boundAt } from './lagrangianBound'
import { allInPlay, bestOf, fitting, problem, resources, written } from './testColumns'
import { settledProgram, uploadProgram } from './uploadProgram'
import { runsOf } from '../../../tests/tier'

const ample = 1e6
const price = fc.double({ min: 0, max: 4, noNaN: true })
const worthOf = (plans: ReturnType<typeof fitting>): number | null =>
  bestOf(plans.map((plan) => plan.reduce((sum, { value }) => sum + value, 0)))

describe('the program over the upload', () => {
  it('bounds every plan whatever the prices, and its plan holds', () => {
    fc.assert(
      fc.property(
        problem,
        fc.array(price, { minLength: 9, maxLength: 9 }),
        ({ components, capacity }, prices) => {
          const subproblems = allInPlay(written(components))
          const given = resources(capacity)
          const bound = boundAt(subproblems, Float64Array.from(prices), given)
          const program = runToEnd(uploadProgram({ subproblems, bound }, given))!
          const best = worthOf(fitting(components, capacity))
          if (best !== null) expect(program.upper).toBeGreaterThanOrEqual(best - 1e-6)
          const settled = settledProgram(subproblems, given, program)
          if (settled) expect(best).toBeGreaterThanOrEqual(settled.value)
        },
      ),
      { numRuns: runsOf(500) },
    )
  })

  it('finds the best plan where nothing but the upload, and what is counted, is short', () => {
    fc.assert(
      fc.property(problem, ({ components, capacity: [upload, ...others] }) => {
        const capacity = [upload, ...others.map((amount, at) => (at < 5 ? ample : amount))]
        const subproblems = allInPlay(written(components))
        const given = resources(capacity)
        // With a price, so that relays and those left out are counted, which then cost nothing.
        const bound = boundAt(
          subproblems,
          Float64Array.from(capacity, (amount) => (amount === ample ? 0 : 1)),
          given,
        )
        const program = runToEnd(uploadProgram({ subproblems, bound }, given))!
        const best = worthOf(fitting(components, capacity))
        const isAllCounted = capacity.slice(6).every((amount) => amount > 0)
        if (!isAllCounted) return
        expect(program.upper).toBe(best ?? -Infinity)
        expect(settledProgram(subproblems, given, program)?.value ?? null).toBe(best)
      }),
      { numRuns: runsOf(500) },
    )
  })

  it('is not begun where it would take too much memory', () => {
    const points = Array.from({ length: 4 }, (_, at): [number, number] => [at, at])
    const column = { mask: 1, device: -1, load: 0, disk: 0, relays: 0, below: 0, leftOutWeight: 0 }
    // Two states each, and 8,000 parts of the upload for each of them.
    const components = Array.from({ length: 1500 }, () => [{ ...column, points }])
    const subproblems = allInPlay(written(components)).map((subproblem) => ({ ...subproblem }))
    const given = resources([8000, ample, ample, ample, ample, ample, ample, ample, ample])
    const bound = boundAt(subproblems, new Float64Array(9), given)
    expect(runToEnd(uploadProgram({ subproblems, bound }, given))).toBeNull()
  })
})
