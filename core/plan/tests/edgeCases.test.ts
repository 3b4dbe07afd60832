import { describe, expect, it } from 'vitest'
import { destination, show as showWith } from '../../fit/testShows'
import { allBreaches, budgetOf } from '../../fit'
import {
  lineOf,
  newDestination,
  newRecording,
  newRendition,
  defaultPlanChoices,
  type Destination,
  type Rendition,
  type Show,
} from '../../show'
import { fitShow } from '../fitShow'
import { nearestPlan } from '../advice/nearest'
import { obstaclesOf } from '../advice/obstacles'
import { withPlan } from '../showPlan'

/** A show without known devices, so that only the line counts. */
const onLine = (usableKbps: number, destinations: Show['destinations']): Show => ({
  ...showWith(usableKbps, destinations),
  computer: { name: '', devices: [], freeDiskGigabytes: null, measured: null },
})
let last = 0
const id = (): string => `edge-${(last += 1)}`
const place = (
  rules: Partial<Destination['rules']> = {},
  changes: Partial<Destination> = {},
  rendition: Partial<Rendition> = {},
): Destination => destination(rendition, rules, { id: id(), name: id(), ...changes })

const relay = (
  rules: Partial<Destination['rules']> = {},
  rendition: Partial<Rendition> = {},
): Destination => {
  const made = newDestination(id, 'Relay', 'landscape')
  return {
    ...made,
    connection: 'relay',
    protocol: 'srt',
    rules: { ...made.rules, mostFed: 1, ...rules },
    renditions: [{ ...(made.renditions[0] as Rendition), ...rendition }],
  }
}
const fedOnly = (by: Destination): Partial<Destination> => ({
  relayId: by.id,
  plan: defaultPlanChoices,
})
const openRoute: Partial<Destination> = {
  plan: { ...defaultPlanChoices, routePinned: false },
}
const planned = (show: Show): Show => withPlan(show, fitShow(show).parts ?? [])

describe('a relay with one place', () => {
  it('keeps it for whom is pinned to it, in whatever order the two are listed', () => {
    const one = relay()
    const pinned = place({}, fedOnly(one))
    const open = place({}, openRoute)
    for (const destinations of [
      [pinned, open, one],
      [open, pinned, one],
      [one, open, pinned],
    ]) {
      const { worth, status } = fitShow(onLine(20_000, destinations))
      expect([worth?.leftOutWeight, worth?.encodes, status.name]).toEqual([0, 1, 'optimal'])
    }
  })

  it('is not held to the path of whom it feeds', () => {
    const one = relay({ mostFed: 2 })
    // Mathis et al. 1997: 100 ms and 5 % carry some 0.6 Mb/s.
    const path = { roundTripMilliseconds: 100, lossPercent: 5 }
    const fed = place({}, { ...fedOnly(one), path, protocol: 'rtmps' })
    const show = planned(onLine(20_000, [fed, one]))
    expect(show.destinations[0]?.plan.leftOut).toBe(false)
    expect(show.destinations[1]?.renditions[0]?.videoBitrateKbps).toBeGreaterThan(2000)
  })

  it('may want more than what it feeds can use', () => {
    const one = relay({ mostFed: 3, leastVideoBitrateKbps: 20_000, mostVideoBitrateKbps: 40_000 })
    const rules = {
      mostVideoBitrateKbps: 40_000,
      sizes: { type: 'one of' as const, sizes: [{ width: 640, height: 360 }] },
    }
    const { worth } = fitShow(
      onLine(60_000, [place(rules, fedOnly(one)), place(rules, fedOnly(one)), one]),
    )
    expect(worth?.leftOutWeight).toBe(0)
  })

  it('is sent what its own rendition is pinned to', () => {
    const size = { width: 1280, height: 720 }
    const one = relay(
      { mostFed: 2 },
      { ...size, videoBitrateKbps: 3333, pins: ['size', 'video bitrate'] },
    )
    const show = planned(onLine(20_000, [place({}, fedOnly(one)), one]))
    expect(show.destinations[0]?.plan.leftOut).toBe(false)
    expect(show.destinations[1]?.renditions[0]).toMatchObject({ ...size, videoBitrateKbps: 3333 })
  })
})

describe('what has to hold', () => {
  it('a ladder with more renditions than its rules now take sends no surplus', () => {
    const three = [
      { width: 1280, height: 720 },
      { width: 640, height: 360 },
      { width: 426, height: 240 },
    ].map((size) => ({ ...newRendition(id(), 'landscape'), ...size, videoBitrateKbps: 4000 }))
    const ladder = place({ mostRenditions: 2 }, { renditions: three })
    const show = planned(onLine(6000, [ladder]))
    expect(show.destinations[0]?.renditions).toHaveLength(2)
    expect(budgetOf(show).spareKbps).toBeGreaterThanOrEqual(0)
    expect(allBreaches(show)).toEqual([])
  })

  it('whom no sound can reach is left out', () => {
    const silent = place({ audioCodecs: ['opus'] }, { protocol: 'rtmp' })
    const show = planned(onLine(20_000, [silent, place()]))
    expect(show.destinations.map(({ plan }) => plan.leftOut)).toEqual([true, false])
    expect(obstaclesOf(show).map(({ words }) => words)).toEqual([
      expect.stringMatching(/is reached by RTMP|takes Opus audio/),
    ])
    expect(allBreaches(show)).toEqual([])
  })

  it('a hand-off whose frame rate breaks its rules is left out', () => {
    const slow = { type: 'one of' as const, choices: [30 as const] }
    const handOff = place(
      { framesPerSecond: slow },
      { connection: 'hand-off' },
      { framesPerSecond: 60 },
    )
    const show = onLine(20_000, [handOff])
    expect(planned(show).destinations[0]?.plan.leftOut).toBe(true)
    expect(obstaclesOf(show)[0]?.words).toMatch(/takes 30 fps, not 60/)
  })

  it.each([
    [3010, 3030, 3030],
    [3010, 3060, 3050],
    [60, 60, 60],
  ])('from %i to %i kb/s gets %i', (leastVideoBitrateKbps, mostVideoBitrateKbps, expected) => {
    const narrow = place({ leastVideoBitrateKbps, mostVideoBitrateKbps })
    const show = planned(onLine(20_000, [narrow]))
    expect(show.destinations[0]?.plan.leftOut).toBe(false)
    expect(show.destinations[0]?.renditions[0]?.videoBitrateKbps).toBe(expected)
  })

  it('a recording is never below the floor', () => {
    const recording = {
      ...newRecording(id, 'File', { canvas: 'landscape', size: { width: 1920, height: 1080 } }),
      mostVideoBitrateKbps: 200,
    }
    const show = { ...onLine(20_000, [place()]), recordings: [recording] }
    expect(fitShow(show).worth?.belowFloor).toBe(0)
  })
})

describe('many that could share', () => {
  it.each([16, 20, 30, 33, 50])('%i alike are all kept where there is room', (count) => {
    const show = onLine(
      500_000,
      Array.from({ length: count }, () => place()),
    )
    expect(fitShow(show).worth?.leftOutWeight).toBe(0)
  })

  it('a relay that may feed 20 feeds 20', () => {
    const one = relay({ mostFed: 20 })
    const show = onLine(10_000, [...Array.from({ length: 20 }, () => place({}, openRoute)), one])
    expect(fitShow(show).worth?.leftOutWeight).toBe(0)
  })

  it('as many are kept as there is room for', () => {
    // A send has a floor of its own here, so that the line carries just so many.
    const rules = { leastVideoBitrateKbps: 3000, mostVideoBitrateKbps: 3000 }
    const show = onLine(
      36_000,
      Array.from({ length: 20 }, () => place(rules)),
    )
    const each = budgetOf(planned(onLine(36_000, [place(rules)]))).totalKbps
    const kept = planned(show).destinations.filter(({ plan }) => !plan.leftOut)
    expect(kept).toHaveLength(Math.floor(36_000 / Math.ceil(each)))
  })

  it('50 ladders of three are all kept where there is room', () => {
    const steps = [
      { width: 1280, height: 720 },
      { width: 640, height: 360 },
      { width: 426, height: 240 },
    ]
    const ladder = () =>
      place(
        { mostRenditions: 3 },
        { renditions: steps.map((size) => ({ ...newRendition(id(), 'landscape'), ...size })) },
      )
    const show = onLine(2_000_000, Array.from({ length: 50 }, ladder))
    expect(fitShow(show).worth?.leftOutWeight).toBe(0)
  })
})

describe('the nearest plan', () => {
  it('counts the upload that other traffic takes beyond the whole line', () => {
    const kept = place(
      { leastVideoBitrateKbps: 3000 },
      { plan: { ...openRoute.plan!, mustKeep: true } },
    )
    const show = onLine(2000, [kept])
    const missWith = (bitrateKbps: number): number => {
      const line = {
        ...lineOf(show),
        otherTraffic: [{ id: 'other', name: 'Sync', bitrateKbps, on: true }],
      }
      return nearestPlan({ ...show, lines: [line] }).missKbps ?? NaN
    }
    expect(missWith(5000) - missWith(2000)).toBe(3000)
  })

  it('is found above 256 Mb/s too', () => {
    const must = { ...openRoute.plan!, mustKeep: true }
    const rules = { leastVideoBitrateKbps: 150_000, mostVideoBitrateKbps: 200_000 }
    const show = onLine(10_000, [
      place(rules, { plan: must }),
      place(rules, { plan: must, canvas: 'vertical' }),
    ])
    expect(nearestPlan(show).missKbps).toBeGreaterThan(290_000)
  })
})
