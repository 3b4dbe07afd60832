import { describe, expect, it } from 'vitest'
import type { Destination } from '../../show'
import { showProblem } from '../problem/showProblem'
import type { PlannedShow } from '../problem/renditionRequests'
import { check, solveOrSkip } from '../tests/propertyRuns'
import { randomShow } from '../tests/testShows'
import { wildShows } from '../tests/wildShows'
import { leastUploadKbps } from './leastUpload'
import { timesOf } from '../../../tests/tier'

describe('the least upload of all plans', () => {
  it('is never more than a plan takes that leaves out and keeps above the floor as much', () => {
    let aboveFloor = 0
    let leftOut = 0
    check(wildShows(5), 40, (show) => {
      const { problem } = showProblem(show)
      const { solution } = solveOrSkip(problem)
      if (!solution) return
      const { leftOutWeight, belowFloor } = solution.worth
      const terms = { leftOutWeight, isAboveFloor: belowFloor === 0 }
      expect(leastUploadKbps(problem, terms)).toBeLessThanOrEqual(solution.uploadKbps)
      if (terms.isAboveFloor) aboveFloor += 1
      if (leftOutWeight > 0) leftOut += 1
    })
    expect(aboveFloor).toBeGreaterThanOrEqual(timesOf(9))
    expect(leftOut).toBeGreaterThanOrEqual(timesOf(4))
  })

  it('is the sum of what sends take at their floor where nothing feeds them and all is kept', () => {
    const show = randomShow(12_001, { destinations: 6, grain: 'fine', marginPoints: 0.5 })
    const { problem } = showProblem(show)
    const sum = (isAboveFloor: boolean): number =>
      leastUploadKbps(problem, { leftOutWeight: 0, isAboveFloor })
    const byHand = problem.demands.map(({ choices, floorUnits }) =>
      Math.min(
        ...choices.flatMap(({ first, scores, wireKbps }) =>
          [...scores].flatMap((score, at) =>
            score >= floorUnits && score >= 0 ? [wireKbps[first + at]!] : [],
          ),
        ),
      ),
    )
    expect(sum(true)).toBe(byHand.reduce((all, kbps) => all + kbps, 0))
    expect(sum(false)).toBeLessThan(sum(true))
  })

  it('lets go of those first who take most for what they matter, and of none that must be kept', () => {
    const show = randomShow(12_001, { destinations: 6, grain: 'fine', marginPoints: 0.5 })
    const keptFor = (mustKeep: boolean): PlannedShow => ({
      ...show,
      destinations: show.destinations.map((each): Destination => ({
        ...each,
        plan: { ...each.plan, mustKeep },
      })),
    })
    const least = (mustKeep: boolean, leftOutWeight: number): number =>
      leastUploadKbps(showProblem(keptFor(mustKeep)).problem, { leftOutWeight, isAboveFloor: true })
    const weights = [0, 1, 2, 4, 8, 16, 100]
    const free = weights.map((weight) => least(false, weight))
    expect(free).toEqual([...free].sort((a, b) => b - a))
    expect(new Set(free).size).toBeGreaterThan(4)
    expect(free.at(-1)).toBeCloseTo(0)
    expect(weights.map((weight) => least(true, weight))).toEqual(weights.map(() => free[0]))
  })
})
