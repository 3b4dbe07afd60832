import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { noPreferences } from '../problem/preferences'
import { compareShortfalls, type Demand } from '../problem/problem'
import { showProblem } from '../problem/showProblem'
import type { PlannedShow } from '../problem/renditionRequests'
import { runToEnd } from '../runToEnd'
import { brokenConstraints } from '../tests/constraints'
import { randomShow, shortened } from '../tests/testShows'
import { lessShort } from './largeNeighbourhood'
import { type Encode, EncodeUses, solutionOfEncodes } from './planState'
import { inPriorityOrder, type Rank, ranksByPriority } from './priorityOrder'
import { solve } from './solve'
import { casesOf, runsOf, timesOf } from '../../../tests/tier'

const shows = fc
  .record({
    seed: fc.integer({ min: 1, max: 1_000_000 }),
    destinations: fc.integer({ min: 2, max: 7 }),
    relay: fc.boolean(),
    recording: fc.boolean(),
    pins: fc.boolean(),
  })
  .map(({ seed, ...options }) => randomShow(seed, { ...options, alike: true, grain: 'coarse' }))

/** The demands of each class, by their place in it. */
function classesOf(ranks: readonly Rank[]): number[][] {
  const classes = new Map<number, number[]>()
  ranks.forEach(({ alike, place }, demand) => {
    const own = classes.get(alike) ?? []
    classes.set(alike, own)
    own[place] = demand
  })
  return [...classes.values()]
}

/** What a demand gets and takes, for a priority of one. */
const forOne = ({ choices, floorUnits, priority, id: _id, owner: _owner, ...rest }: Demand) => ({
  ...rest,
  marginUnits: rest.marginUnits / priority,
  floorUnits: floorUnits / priority,
  choices: choices.map(({ scores, ...choice }) => ({
    ...choice,
    scores: [...scores].map((units) => (units < 0 ? units : units / priority)),
  })),
})

describe('the order by priority', () => {
  it('is one of those who are alike but for it, the highest first', () => {
    let together = 0
    fc.assert(
      fc.property(shows, (show) => {
        const { problem } = showProblem(show)
        for (const demands of classesOf(ranksByPriority(problem))) {
          const own = demands.map((demand) => problem.demands[demand]!)
          if (own.length > 1) together += 1
          const priorities = own.map(({ priority }) => priority)
          expect(priorities).toEqual(priorities.toSorted((a, b) => b - a))
          for (const each of own.slice(1)) expect(forOne(each)).toEqual(forOne(own[0]!))
        }
      }),
      { numRuns: runsOf(60) },
    )
    expect(together).toBeGreaterThanOrEqual(timesOf(31))
  })

  it('leaves each by itself who differs in anything else', () => {
    const { problem } = showProblem(
      randomShow(3, { destinations: 5, alike: true, grain: 'coarse' }),
    )
    const ranks = ranksByPriority(problem)
    const [first, second] = classesOf(ranks).find((demands) => demands.length > 1)!
    const own = problem.demands[second!]!
    const [choice] = own.choices
    const others: Partial<Demand>[] = [
      { mustKeep: !own.mustKeep },
      { picture: 'another' },
      { devices: [0] },
      { floorUnits: own.floorUnits + 1 },
      { shares: !own.shares },
      { choices: [{ ...choice!, wireKbps: choice!.wireKbps.map((kbps) => kbps + 1) }] },
      { choices: own.choices.slice(1) },
    ]
    for (const changes of others) {
      const demands = problem.demands.map((each, at) =>
        at === second ? { ...each, ...changes } : each,
      )
      const changed = ranksByPriority({ ...problem, demands })
      expect(changed[second!]!.alike).not.toBe(changed[first!]!.alike)
    }
  })

  it('is kept by crowds, whose plans are proven where not everything fits too', () => {
    for (const count of casesOf([12, 20, 50], (each) => each === 20)) {
      const { problem, preferences } = showProblem(crowd(count))
      const { solution, status } = solve(problem, preferences)
      expect(status.name).toBe('optimal')
      expect(solution!.worth.leftOutWeight + solution!.worth.belowFloor).toBeGreaterThan(0)
      expect(brokenConstraints(problem, solution!)).toEqual([])
    }
  })

  it('is what a plan is put in, using the same, falling no shorter and worth no less', () => {
    let changed = 0
    fc.assert(
      fc.property(shows, fc.double({ min: 0.1, max: 0.6, noNaN: true }), (show, share) => {
        const { problem } = showProblem(shortened(show, share))
        const uses = new EncodeUses(problem, noPreferences)
        const found = runToEnd(lessShort(uses, null, { rounds: 12 }))
        if (!found.encodes) return
        const encodes = turned(ranksByPriority(problem), found.encodes)
        const inOrder = inPriorityOrder(problem, encodes)
        const before = solutionOfEncodes(uses, encodes)
        const after = solutionOfEncodes(uses, inOrder)
        expect(brokenConstraints(problem, after)).toEqual([])
        expect(after.uploadKbps).toBe(before.uploadKbps)
        expect(compareShortfalls(after.worth, before.worth)).toBeGreaterThanOrEqual(0)
        if (after.worth.leftOutWeight === before.worth.leftOutWeight)
          expect(after.worth.scoreUnits).toBeGreaterThanOrEqual(before.worth.scoreUnits)
        if (JSON.stringify(inOrder) !== JSON.stringify(encodes)) changed += 1
      }),
      { numRuns: runsOf(60) },
    )
    // By the seeds of six days it was 8 to 17.
    expect(changed).toBeGreaterThanOrEqual(timesOf(4))
  })
})

/** The same plan with the last of those who are alike in the place of the first, and so on. */
function turned(ranks: readonly Rank[], encodes: readonly Encode[]): Encode[] {
  const insteadOf = new Map(
    classesOf(ranks).flatMap((own) => own.map((demand, at) => [demand, own.at(-1 - at)!] as const)),
  )
  return encodes.map((encode) => ({
    ...encode,
    serves: encode.serves.map(({ demand, relay }) => ({ demand: insteadOf.get(demand)!, relay })),
  }))
}

/** So many of one profile and of all priorities, on a line for half of them at the most. */
function crowd(count: number): PlannedShow {
  const show = randomShow(5, { destinations: 1, grain: 'coarse', marginPoints: 0.5 })
  const [first] = show.destinations
  const [line] = show.lines
  const samples = line!.samples.map((sample) => ({ ...sample, uploadKbps: 450 * count }))
  return {
    ...show,
    destinations: Array.from({ length: count }, (_, index) => ({
      ...first!,
      ...{ id: `place-${index}`, name: `Place ${index}` },
      plan: { ...first!.plan, mustKeep: false, priority: 1 + (index % 5) },
    })),
    lines: [{ ...line!, samples }],
  }
}
