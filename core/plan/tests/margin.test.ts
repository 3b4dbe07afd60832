import { plannedDemoShow } from '@green-mantle/demo'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { allBreaches, budgetOf, deviceUses, overloads, pathCeilings } from '../../fit'
import { type Rendition, type Show, defaultFitSettings } from '../../show'
import { withUpload } from '../advice/resourceUse'
import { fitShow } from '../fitShow'
import type { PlannedShow } from '../problem/renditionRequests'
import { planOf, withPlan } from '../showPlan'
import { check, fitOrSkip } from './propertyRuns'
import { timesOf } from '../../../tests/tier'
import { randomShow } from './testShows'

const shows = fc
  .record({
    seed: fc.integer({ min: 1, max: 1_000_000 }),
    destinations: fc.integer({ min: 1, max: 6 }),
    relay: fc.boolean(),
    recording: fc.boolean(),
    pins: fc.boolean(),
    grain: fc.constantFrom('coarse' as const, 'fine' as const),
  })
  .map(({ seed, ...options }) => randomShow(seed, { ...options, marginPoints: 0.5 }) as Show)

const exactly = (show: Show): Show => ({ ...show, fit: { ...show.fit, marginPoints: 0 } })
const planned = (show: Show): Show => withPlan(show, fitOrSkip(show).parts ?? [])
/** Half a point for everybody, by how much they matter. */
const marginUnits = ({ destinations, recordings }: PlannedShow): number =>
  [...destinations.filter(({ connection }) => connection !== 'relay'), ...recordings]
    .filter(({ on }) => on)
    .reduce((sum, { plan }) => sum + 50 * plan.priority, 0)

describe('a plan within the margin', () => {
  it('leaves out and puts below the floor as few as the best, and stays within the margin of it', () => {
    check(shows, 50, (show) => {
      const [within, best] = [fitOrSkip(show), fitOrSkip(exactly(show))]
      if (!best.worth) {
        expect(within.worth).toBeNull()
        return
      }
      expect(within.worth).toMatchObject({
        leftOutWeight: best.worth.leftOutWeight,
        belowFloor: best.worth.belowFloor,
      })
      const lost = best.worth.scoreUnits - within.worth!.scoreUnits
      if (within.status.name === 'optimal' && best.status.name === 'optimal') {
        expect(lost).toBeLessThanOrEqual(marginUnits(show))
        expect(within.status.gap).toBeGreaterThanOrEqual(lost)
      }
    })
  })

  it('is that too where it is the one that a show holds, whatever changed since it was made', () => {
    const changes = fc.record({
      upload: fc.constantFrom(-2000, -200, 0, 300, 3000),
      planned: fc.constantFrom(-20, 0, 15),
      unpinned: fc.boolean(),
    })
    let kept = 0
    check(fc.tuple(shows, changes), 60, ([show, { upload, planned: more, unpinned }]) => {
      const once = planned(show)
      const { computer } = once
      const devices = computer.devices.map((device) => ({
        ...device,
        plannedSharePercent: Math.max(10, device.plannedSharePercent + more),
      }))
      const changed = withUpload({ ...once, computer: { ...computer, devices } }, upload) as Show
      if (unpinned)
        for (const { renditions } of changed.destinations)
          for (const rendition of renditions) rendition.pins = []
      const [within, best] = [fitOrSkip(changed), fitOrSkip(exactly(changed))]
      expect(within.status.name).toBe(best.status.name)
      expect([within.worth?.leftOutWeight, within.worth?.belowFloor]).toEqual([
        best.worth?.leftOutWeight,
        best.worth?.belowFloor,
      ])
      if (!best.worth || best.status.name !== 'optimal') return
      const lost = best.worth.scoreUnits - within.worth!.scoreUnits
      expect(lost).toBeLessThanOrEqual(marginUnits(changed))
      if (within.status.name === 'optimal') expect(within.status.gap).toBeGreaterThanOrEqual(lost)
      if (JSON.stringify(within.parts) === JSON.stringify(planOf(changed))) kept += 1
    })
    expect(kept).toBeGreaterThanOrEqual(timesOf(6))
  })

  it('keeps every rule, the line, the paths, the computer and the disk', () => {
    check(shows, 50, (show) => {
      const result = fitOrSkip(show)
      if (!result.parts) return
      const after = withPlan(show, result.parts)
      expect(allBreaches(after)).toEqual([])
      expect(budgetOf(after).spareKbps).toBeGreaterThanOrEqual(0)
      expect(overloads(after)).toEqual([])
      expect(pathCeilings(after).every(({ fits }) => fits)).toBe(true)
      expect(budgetOf(after).encodeCount).toBe(result.worth?.encodes)
    })
  })

  it('is kept whole when it is planned again, and with a little more upload', () => {
    check(fc.tuple(shows, fc.integer({ min: 0, max: 60 })), 50, ([show, more]) => {
      const once = planned(show)
      expect(planOf(planned(once))).toEqual(planOf(once))
      const [before, after] = [fitOrSkip(once).worth, fitOrSkip(withUpload(once, more)).worth]
      if (before && after && after.leftOutWeight === before.leftOutWeight)
        expect(after.belowFloor).toBeLessThanOrEqual(before.belowFloor)
    })
  })

  it('is never worth less with more upload, once there is one', () => {
    check(fc.tuple(shows, fc.integer({ min: 1, max: 3000 })), 50, ([show, more]) => {
      const once = planned(show)
      const [before, after] = [fitOrSkip(once), fitOrSkip(withUpload(once, more))]
      if (!before.worth || !after.worth || after.status.name === 'stopped') return
      if (after.worth.leftOutWeight < before.worth.leftOutWeight) return
      if (after.worth.belowFloor < before.worth.belowFloor) return
      expect(after.worth.scoreUnits).toBeGreaterThanOrEqual(before.worth.scoreUnits)
    })
  })
})

describe('what is made of the margin', () => {
  const cells = (show: Show): Rendition[] => [
    ...show.destinations.flatMap(({ renditions }) => renditions),
    ...show.recordings.map(({ rendition }) => rendition),
  ]
  const once = planned(plannedDemoShow)

  it('rounds bitrates: nearly all of the demo’s are multiples of 250', () => {
    const chosen = once.destinations
      .filter(({ on, plan, connection }) => on && !plan.leftOut && connection !== 'hand-off')
      .flatMap(({ renditions }) => renditions)
    const round = chosen.filter(({ videoBitrateKbps }) => videoBitrateKbps % 250 === 0)
    expect(round.length).toBeGreaterThanOrEqual(chosen.length - 1)
  })

  it('changes no cell for a percent of upload, and few for five', () => {
    const percent = budgetOf(once).upload.usableKbps / 100
    const changed = (kbps: number): number => {
      const after = cells(planned(withUpload(once, kbps) as Show))
      return cells(once).filter((cell, at) => JSON.stringify(cell) !== JSON.stringify(after[at]))
        .length
    }
    expect(changed(percent)).toBe(0)
    expect(changed(-5 * percent)).toBeLessThanOrEqual(2)
  })

  it('lets an idle graphics encoder do what the processor need not', () => {
    const processorLoad = (marginPoints: number): number => {
      const show = {
        ...plannedDemoShow,
        recordings: [],
        fit: { ...defaultFitSettings, marginPoints },
      }
      const uses = deviceUses(planned(show))
      return uses
        .filter(({ device }) => device.kind === 'processor')
        .reduce((sum, { load }) => sum + load, 0)
    }
    expect(processorLoad(0.5)).toBeLessThan(processorLoad(0) / 2)
  })

  it('takes nothing that is off for planned, until it is switched on', () => {
    const [first, ...others] = plannedDemoShow.destinations
    const off = planned({ ...plannedDemoShow, destinations: [{ ...first!, on: false }, ...others] })
    expect(off.destinations[0]?.plan.planned).toBe(false)
    const on = planned({
      ...off,
      destinations: off.destinations.map((each) => ({ ...each, on: true })),
    })
    expect(on.destinations[0]?.plan.planned).toBe(true)
  })

  it('counts for nothing what no plan has set', () => {
    const never = {
      ...once,
      destinations: once.destinations.map((each) => ({
        ...each,
        plan: { ...each.plan, planned: false },
        renditions: each.renditions.map((rendition) => ({ ...rendition, videoBitrateKbps: 50 })),
      })),
    }
    expect(fitShow(never).worth).toEqual(
      fitShow({
        ...never,
        destinations: never.destinations.map((each) => ({
          ...each,
          renditions: each.renditions.map((rendition) => ({ ...rendition, videoBitrateKbps: 200 })),
        })),
      }).worth,
    )
  })
})
