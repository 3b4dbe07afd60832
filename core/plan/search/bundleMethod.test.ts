import fc from 'fast-check'
import highsLoader from 'highs'
import { describe, expect, it } from 'vitest'
import { runToEnd } from '../runToEnd'
import { boundAt, uploadBound } from './lagrangianBound'
import { firstBound, boundByPartialPricing } from './partialPricing'
import { bundleMethod } from './bundleMethod'
import {
  allInPlay,
  type Drawn,
  everyPlanOf,
  fitting,
  problem,
  resources,
  useOf,
  written,
} from './testColumns'
import { runsOf, timesOf } from '../../../tests/tier'

const highs = await highsLoader()

/**
 * The lowest bound that prices can give, as a linear program: of every component a mixture of all its
 * plans, which together keep within the resources. By linear duality the two are the same.
 */
function lowestByLinearProgram(
  components: readonly (readonly Drawn[])[],
  capacity: readonly number[],
): number | null {
  const objective: string[] = []
  const mixtures: string[] = []
  const used: string[][] = capacity.map(() => [])
  components.forEach((drawn, component) => {
    const names = everyPlanOf(drawn).map((plan, index) => {
      const name = `x${component}_${index}`
      objective.push(`+ ${plan.reduce((sum, { value }) => sum + value, 0)} ${name}`)
      useOf(plan).forEach((amount, resource) => {
        if (amount > 0) used[resource]!.push(`+ ${amount} ${name}`)
      })
      return `+ ${name}`
    })
    if (names.length > 0) mixtures.push(`${names.join(' ')} = 1`)
  })
  if (mixtures.length < components.length) return null
  const limits = used.flatMap((terms, resource) =>
    terms.length > 0 ? [`${terms.join(' ')} <= ${capacity[resource]}`] : [],
  )
  const program = ['Maximize', objective.join(' '), 'Subject To', ...mixtures, ...limits, 'End']
  const solved = highs.solve(program.join('\n').replaceAll('+ -', '- '))
  return solved.Status === 'Optimal' ? solved.ObjectiveValue : null
}

describe('the price of the resources', () => {
  it('is found at which the bound is lowest, as a linear program solved by HiGHS says', () => {
    let compared = 0
    fc.assert(
      fc.property(problem, ({ components, capacity }) => {
        const lowest = lowestByLinearProgram(components, capacity)
        if (lowest === null) return
        compared += 1
        const subproblems = allInPlay(written(components))
        const given = resources(capacity)
        const exact = runToEnd(
          bundleMethod(subproblems, given, runToEnd(uploadBound(subproblems, given)), null, 300),
        ).upper
        expect(exact).toBeGreaterThan(lowest - 1e-6)
        expect(exact).toBeLessThan(lowest + 0.02 * Math.max(1, Math.abs(lowest)))
        const node = { subproblems, bound: runToEnd(firstBound(subproblems, given)) }
        const near = runToEnd(boundByPartialPricing(node, given, null, 300)).upper
        expect(near).toBeGreaterThan(lowest - 1e-6)
        expect(near).toBeLessThanOrEqual(node.bound.upper)
      }),
      // Of some ten thousand problems there is one whose lowest bound is missed by more.
      { numRuns: runsOf(1000) },
    )
    expect(compared).toBeGreaterThanOrEqual(timesOf(51))
  })

  it('makes a bound that no plan exceeds, whatever it is', () => {
    const price = fc.double({ min: 0, max: 20, noNaN: true })
    fc.assert(
      fc.property(
        problem,
        fc.array(price, { minLength: 9, maxLength: 9 }),
        ({ components, capacity }, prices) => {
          const { upper } = boundAt(
            allInPlay(written(components)),
            Float64Array.from(prices),
            resources(capacity),
          )
          for (const plan of fitting(components, capacity))
            expect(plan.reduce((sum, { value }) => sum + value, 0)).toBeLessThanOrEqual(
              upper + 1e-6,
            )
        },
      ),
    )
  })
})
