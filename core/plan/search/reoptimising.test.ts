import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { noPreferences } from '../problem/preferences'
import { compareWorth, type Solution } from '../problem/problem'
import type { PlannedShow } from '../problem/renditionRequests'
import { showProblem } from '../problem/showProblem'
import { runToEnd } from '../runToEnd'
import { brokenConstraints } from '../tests/constraints'
import { check } from '../tests/propertyRuns'
import { withRelays } from '../tests/relayedShows'
import { crowdOnShortLine } from '../tests/testShows'
import { crowdedShow } from '../tests/wildShows'
import { greedyPlan, raised } from './greedy'
import { EncodeUses, solutionOfEncodes } from './planState'
import { reoptimised } from './reoptimising'
import { isDeep } from '../../../tests/tier'

const margins = { forProof: 10, inAll: 40 }

function atOnceOf(uses: EncodeUses): Solution | null {
  const encodes = runToEnd(greedyPlan(uses))
  return encodes && solutionOfEncodes(uses, raised(uses, encodes))
}

const seed = fc.integer({ min: 1, max: 1_000_000 })
const crowd = fc.record({
  destinations: fc.integer({ min: 2, max: 40 }),
  seed,
  share: fc.constantFrom(0.15, 0.4, 1),
})
const alike = fc.record({ destinations: fc.integer({ min: 2, max: 40 }), seed, relays: seed })

function expectBetter(show: PlannedShow): void {
  const { problem } = showProblem(show)
  const uses = new EncodeUses(problem, noPreferences)
  const start = atOnceOf(uses)
  if (!start) return
  let last = start
  const run = reoptimised(uses, start, () => margins, 2500)
  for (;;) {
    const { value, done } = run.next()
    if (value.solution !== last) {
      expect(brokenConstraints(problem, value.solution!)).toEqual([])
      expect(compareWorth(value.solution!.worth, last.worth)).toBeGreaterThan(0)
      last = value.solution!
    }
    if (done) return
  }
}

describe('a plan that is made better part by part', () => {
  it('keeps what has to hold, and gets better with every change', () => {
    check(crowd, 20, ({ destinations, seed: from, share }) => {
      expectBetter(crowdOnShortLine(destinations, from, share))
    })
  })

  it('does so where many are alike, and relays feed some', () => {
    check(alike, 15, ({ destinations, seed: from, relays }) => {
      expectBetter(withRelays(crowdedShow(from, destinations), relays))
    })
  })

  it.skipIf(!isDeep)('leaves out far less than what was found at once', () => {
    const { problem } = showProblem(crowdOnShortLine(40, 40_008, 0.5))
    const uses = new EncodeUses(problem, noPreferences)
    const start = atOnceOf(uses)!
    const { solution } = runToEnd(reoptimised(uses, start, () => margins, 10_000))
    expect(start.worth.leftOutWeight).toBe(21)
    expect(solution!.worth.leftOutWeight).toBeLessThanOrEqual(8)
  })
})
