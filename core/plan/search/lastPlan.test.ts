import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Show } from '../../show'
import { withUpload } from '../advice/resourceUse'
import { type FitResult, fitShow, fittingShow } from '../fitShow'
import { compareShortfalls } from '../problem/problem'
import type { PlannedShow } from '../problem/renditionRequests'
import { showProblem } from '../problem/showProblem'
import { withPlan } from '../showPlan'
import { check } from '../tests/propertyRuns'
import { withRelays } from '../tests/relayedShows'
import { crowdOnShortLine, randomShow, shortened } from '../tests/testShows'
import { crowdedShow } from '../tests/wildShows'
import { heldPlan, lastEncodes } from './lastPlan'
import { EncodeUses } from './planState'

const heldOf = (show: Show) => {
  const { problem, preferences } = showProblem(show)
  return heldPlan(new EncodeUses(problem, preferences))
}
const fresh = randomShow(3, {
  ...{ destinations: 4, grain: 'fine', relay: true, recording: true, pins: false },
  marginPoints: 0.5,
}) as Show
const result = fitShow(fresh)
const planned = withPlan(fresh, result.parts ?? [])

describe('the plan that a show holds', () => {
  it('is there as it was found, and not before one was', () => {
    expect(result.worth).toMatchObject({ leftOutWeight: 0, belowFloor: 0 })
    expect(heldOf(fresh)).toBeNull()
    expect(heldOf(planned)?.worth).toEqual(result.worth)
    expect(heldOf(planned)?.uploadKbps).toBe(result.uploadKbps)
  })

  it('is none once it breaks what has to hold', () => {
    expect(heldOf(withUpload(planned, 500) as Show)).not.toBeNull()
    const spareKbps = showProblem(planned).problem.uploadKbps - result.uploadKbps
    expect(heldOf(withUpload(planned, -spareKbps - 50) as Show)).toBeNull()
    const [first, ...others] = planned.destinations as [Show['destinations'][number]]
    const mostVideoBitrateKbps = first.renditions[0]!.videoBitrateKbps - 50
    const rules = { ...first.rules, mostVideoBitrateKbps }
    expect(heldOf({ ...planned, destinations: [{ ...first, rules }, ...others] })).toBeNull()
    const computer = { ...planned.computer, freeDiskGigabytes: 0 }
    expect(heldOf({ ...planned, computer })).toBeNull()
  })

  it('takes what is all pinned for planned, but not where it may not be sent to directly', () => {
    const { problem, preferences } = showProblem(planned)
    const [first, ...others] = problem.demands as [(typeof problem.demands)[number]]
    const { encodes, assignments } = heldPlan(new EncodeUses(problem, preferences))!
    const { shape, device, bitrateKbps } = encodes[assignments[0]!.encode!]!
    const place = problem.bitratesKbps.indexOf(bitrateKbps)
    const choice = first.choices.find((each) => each.shape === shape)!
    const from = place - choice.first
    const only = {
      ...choice,
      first: place,
      scores: choice.scores.slice(from, from + 1),
      earned: null,
    }
    const last = [null, ...preferences.last.slice(1)]
    const pinned = (direct: boolean, relays: number[]) => {
      const demand = { ...first, choices: [only], devices: [device], direct, relays }
      const demands = [demand, ...others]
      const held = heldPlan(new EncodeUses({ ...problem, demands }, { ...preferences, last }))
      return held?.worth.leftOutWeight
    }
    expect(pinned(true, [])).toBe(0)
    expect(pinned(false, [0])).toBe(first.priority)
    expect(pinned(false, [])).toBe(first.priority)
  })

  it('has a recording share what is made for a relay only where that has its picture', () => {
    const { problem, preferences } = showProblem(planned)
    const [first] = problem.demands as [(typeof problem.demands)[number]]
    const recording = problem.demands.find(({ sound }) => sound === null)!
    const [relay] = problem.relays as [(typeof problem.relays)[number]]
    const cells = { ...preferences.last[0]!, relay: 0 }
    const isJoined = (pictureOfRelay: string): boolean => {
      const fed = { ...first, relays: [0], direct: false }
      const recorded = { ...recording, picture: first.picture, choices: first.choices }
      const asked = {
        ...problem,
        demands: [fed, recorded],
        relays: [{ ...relay, picture: pictureOfRelay }],
      }
      const last = [cells, { ...cells, relay: null }]
      const uses = new EncodeUses(asked, { ...preferences, last })
      const none = { shape: -1, device: -1, bitrate: -1 }
      const alone = [0, 1].map((demand) => ({ serves: [{ demand, relay: null }], ...none }))
      return lastEncodes(uses, alone)!.length === 1
    }
    expect(isJoined(first.picture)).toBe(true)
    expect(isJoined('another')).toBe(false)
  })

  it('is there where somebody is left out or below the floor', () => {
    const [first, ...others] = planned.destinations as [Show['destinations'][number]]
    const withFirst = (plan: Partial<typeof first.plan>): Show => ({
      ...planned,
      destinations: [{ ...first, plan: { ...first.plan, ...plan } }, ...others],
    })
    const leftOut = { leftOutWeight: first.plan.priority }
    expect(heldOf(withFirst({ leftOut: true }))?.worth).toMatchObject(leftOut)
    expect(heldOf(withFirst({ planned: false }))?.worth).toMatchObject(leftOut)
    expect(heldOf(withFirst({ leftOut: true, mustKeep: true }))).toBeNull()
    const { worth } = heldOf({ ...planned, fit: { ...planned.fit, floorScore: 100 } })!
    expect(worth.belowFloor).toBeGreaterThan(0)
  })

  it('is what many on a short line are planned from again, so that it gets no worse', () => {
    check(crowd, 8, ({ destinations, seed, share }) => {
      expectNoWorseAgain(crowdOnShortLine(destinations, seed, share))
    })
  })

  it('is so too where many are alike and served in lots', () => {
    check(crowd, 12, ({ destinations, seed, share }) => {
      expectNoWorseAgain(shortened(withRelays(crowdedShow(seed, destinations), seed), share))
    })
  })
})

function expectNoWorseAgain(given: PlannedShow): void {
  const show = { ...given, fit: { ...given.fit, marginPoints: 0.5 } }
  const first = plannedFor(show, 400)
  // A plan that leaves out everybody says nothing.
  if (!first.parts || first.worth?.encodes === 0) return
  const again = plannedFor(withPlan(show, first.parts), 30)
  const [before, after] = [first.worth!, again.worth!]
  expect(compareShortfalls(after, before)).toBeGreaterThanOrEqual(0)
  if (compareShortfalls(after, before) === 0 && again.status.name === 'stopped')
    expect(after.scoreUnits).toBeGreaterThanOrEqual(before.scoreUnits)
}

const crowd = fc.record({
  destinations: fc.integer({ min: 21, max: 40 }),
  seed: fc.integer({ min: 1, max: 1_000_000 }),
  share: fc.constantFrom(0.15, 0.3, 0.6),
})

/** What there is after so many steps. */
function plannedFor(show: PlannedShow, steps: number): FitResult {
  const run = fittingShow(show)
  for (let step = 1; ; step += 1) {
    const { value, done } = run.next()
    if (done || step >= steps) return value
  }
}
