import { describe, expect, it } from 'vitest'
import type { Show } from '../../show'
import { withUpload } from '../advice/resourceUse'
import { fitShow } from '../fitShow'
import { showProblem } from '../problem/showProblem'
import { withPlan } from '../showPlan'
import { randomShow } from '../tests/testShows'
import { keptPlan, lastEncodes } from './lastPlan'
import { EncodeUses } from './planState'

const keptOf = (show: Show) => {
  const { problem, preferences } = showProblem(show)
  return keptPlan(new EncodeUses(problem, preferences))
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
    expect(keptOf(fresh)).toBeNull()
    expect(keptOf(planned)?.worth).toEqual(result.worth)
    expect(keptOf(planned)?.uploadKbps).toBe(result.uploadKbps)
  })

  it('is none once it breaks what has to hold', () => {
    expect(keptOf(withUpload(planned, 500) as Show)).not.toBeNull()
    const spareKbps = showProblem(planned).problem.uploadKbps - result.uploadKbps
    expect(keptOf(withUpload(planned, -spareKbps - 50) as Show)).toBeNull()
    const [first, ...others] = planned.destinations as [Show['destinations'][number]]
    const mostVideoBitrateKbps = first.renditions[0]!.videoBitrateKbps - 50
    const rules = { ...first.rules, mostVideoBitrateKbps }
    expect(keptOf({ ...planned, destinations: [{ ...first, rules }, ...others] })).toBeNull()
    const computer = { ...planned.computer, freeDiskGigabytes: 0 }
    expect(keptOf({ ...planned, computer })).toBeNull()
  })

  it('takes what is all pinned for planned, but not where it may not be sent to directly', () => {
    const { problem, preferences } = showProblem(planned)
    const [first, ...others] = problem.demands as [(typeof problem.demands)[number]]
    const { encodes, assignments } = keptPlan(new EncodeUses(problem, preferences))!
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
      return keptPlan(new EncodeUses({ ...problem, demands }, { ...preferences, last }))
    }
    expect(pinned(true, [])).not.toBeNull()
    expect(pinned(false, [0])).toBeNull()
    expect(pinned(false, [])).toBeNull()
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

  it('is none where somebody is left out, below the floor, or was never planned', () => {
    const [first, ...others] = planned.destinations as [Show['destinations'][number]]
    const withFirst = (plan: Partial<typeof first.plan>): Show => ({
      ...planned,
      destinations: [{ ...first, plan: { ...first.plan, ...plan } }, ...others],
    })
    expect(keptOf(withFirst({ leftOut: true }))).toBeNull()
    expect(keptOf(withFirst({ planned: false }))).toBeNull()
    expect(keptOf({ ...planned, fit: { ...planned.fit, floorScore: 100 } })).toBeNull()
  })
})
