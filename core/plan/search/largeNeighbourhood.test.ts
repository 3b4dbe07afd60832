import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { noPreferences } from '../problem/preferences'
import type { Problem } from '../problem/problem'
import { showProblem } from '../problem/showProblem'
import { runToEnd } from '../runToEnd'
import { brokenConstraints } from '../tests/constraints'
import { check } from '../tests/propertyRuns'
import { crowdOnShortLine } from '../tests/testShows'
import { searchedComponents } from './components'
import { knownFrom } from './firstPlan'
import { greedyPlan } from './greedy'
import { lessShort, type NeighbourhoodLimits } from './largeNeighbourhood'
import { type Encode, EncodeUses, solutionOfEncodes } from './planState'
import { inPriorityOrder } from './priorityOrder'
import { columnsFor, selectionOf, solutionFrom } from './selection'

const crowd = fc.record({
  destinations: fc.integer({ min: 8, max: 40 }),
  seed: fc.integer({ min: 1, max: 1_000_000 }),
  share: fc.constantFrom<number>(0.1, 0.2, 0.35, 0.6),
})
type Crowd = typeof crowd extends fc.Arbitrary<infer Value> ? Value : never

const problemOf = ({ destinations, seed, share }: Crowd): Problem =>
  showProblem(crowdOnShortLine(destinations, seed, share)).problem

const usesOf = (problem: Problem): EncodeUses => new EncodeUses(problem, noPreferences)
const shortfallOf = (uses: EncodeUses, encodes: readonly Encode[]): number => {
  const { leftOutWeight, belowFloor } = solutionOfEncodes(uses, encodes).worth
  return leftOutWeight * 1000 + belowFloor
}

/** Every plan on the way, once. */
function plansOf(
  uses: EncodeUses,
  start: readonly Encode[] | null,
  limits: NeighbourhoodLimits,
): Encode[][] {
  const plans = new Set<Encode[]>()
  const run = lessShort(uses, start, limits)
  for (;;) {
    const { value, done } = run.next()
    const plan = done ? value.encodes : value
    if (plan) plans.add(plan)
    if (done) return [...plans]
  }
}

describe('a large neighbourhood search', () => {
  it('goes from plans that keep what has to hold to such as fall no shorter', () => {
    check(crowd, 30, (each) => {
      const problem = problemOf(each)
      const uses = usesOf(problem)
      const atOnce = runToEnd(greedyPlan(uses))
      const plans = plansOf(uses, atOnce, { rounds: 60 })
      let last = atOnce ? shortfallOf(uses, atOnce) : Infinity
      for (const plan of plans) {
        expect(brokenConstraints(problem, solutionOfEncodes(uses, plan))).toEqual([])
        const own = shortfallOf(uses, plan)
        expect(own).toBeLessThanOrEqual(last)
        last = own
      }
    })
  })

  it('leaves out less than what is found at once, the same whenever it is asked', () => {
    const problem = problemOf({ destinations: 50, seed: 50_001, share: 0.12 })
    const uses = usesOf(problem)
    const atOnce = runToEnd(greedyPlan(uses))
    const plans = [1, 2].map(() => plansOf(uses, atOnce, { rounds: 300 }).at(-1)!)
    expect(JSON.stringify(plans[1])).toBe(JSON.stringify(plans[0]))
    expect(solutionOfEncodes(uses, atOnce!).worth.leftOutWeight).toBe(74)
    expect(solutionOfEncodes(uses, plans[0]!).worth.leftOutWeight).toBeLessThanOrEqual(27)
  })

  it('takes in all that must be kept, if it began with a plan or not', () => {
    check(crowd, 15, (each) => {
      const problem = problemOf(each)
      const easily = usesOf(problem)
      const found = plansOf(easily, runToEnd(greedyPlan(easily)), { rounds: 40 }).at(-1)!
      const kept = new Set(found.flatMap(({ serves }) => serves.map(({ demand }) => demand)))
      // A plan for the half of them that come first is there in any case.
      const demands = problem.demands.map((demand, at) => ({
        ...demand,
        mustKeep: kept.has(at) && 2 * at < problem.demands.length,
      }))
      const uses = usesOf({ ...problem, demands })
      const plans = plansOf(uses, null, { rounds: 60 })
      expect(plans.length).toBeGreaterThan(0)
      for (const plan of plans)
        expect(brokenConstraints(uses.problem, solutionOfEncodes(uses, plan))).toEqual([])
    })
  })

  it('ends at once where nothing falls short', () => {
    const problem = problemOf({ destinations: 12, seed: 12_001, share: 2 })
    const uses = usesOf(problem)
    const atOnce = runToEnd(greedyPlan(uses))!
    expect(shortfallOf(uses, atOnce)).toBe(0)
    expect(lessShort(uses, atOnce, { rounds: 1000 }).next().done).toBe(true)
  })

  it('finds plans that the columns made with them can say', () => {
    check(crowd, 20, (each) => {
      const problem = problemOf(each)
      const uses = usesOf(problem)
      const found = runToEnd(lessShort(uses, runToEnd(greedyPlan(uses)), { rounds: 40 }))
      if (!found.encodes) return
      const encodes = inPriorityOrder(problem, found.encodes)
      const known = knownFrom(encodes, found.served)
      const components = searchedComponents(problem, 'first', known.served)
      const columns = runToEnd(columnsFor(problem, components, { known }))
      const selection = selectionOf(uses, columns, encodes)
      expect(selection).not.toBeNull()
      const { worth, assignments } = solutionFrom(problem, columns, selection!)
      const own = solutionOfEncodes(uses, encodes)
      expect(worth.leftOutWeight).toBe(own.worth.leftOutWeight)
      expect(worth.belowFloor).toBe(own.worth.belowFloor)
      expect(assignments.map(({ relay }) => relay)).toEqual(
        own.assignments.map(({ relay }) => relay),
      )
    })
  })
})
