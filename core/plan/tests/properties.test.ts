import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { allBreaches, budgetOf, overloads, pathCeilings } from '../../fit'
import type { Show } from '../../show'
import type { FitResult } from '../fitShow'
import { compareWorth, scoreUnitsPerPoint, type Worth } from '../problem/problem'
import { planningKey } from '../planningKey'
import { withUpload } from '../advice/resourceUse'
import type { PlannedShow } from '../problem/renditionRequests'
import { withPlan } from '../showPlan'
import { check, fitOrSkip } from './propertyRuns'
import { randomShow } from './testShows'

/** Shows of 1 to 6 destinations made by chance. */
const shows = fc
  .record({
    seed: fc.integer({ min: 1, max: 1_000_000 }),
    destinations: fc.integer({ min: 1, max: 6 }),
    relay: fc.boolean(),
    recording: fc.boolean(),
    pins: fc.boolean(),
  })
  .map(({ seed, ...options }) => randomShow(seed, { ...options, grain: 'coarse' }))

/** No plan at all is the worst of all. */
const isAtLeast = (a: Worth | null, b: Worth | null): boolean =>
  b === null || (a !== null && compareWorth(a, b) >= 0)

const planned = (show: PlannedShow, { parts }: FitResult): Show =>
  withPlan(show as Show, parts ?? [])

describe('a plan', () => {
  it('is never worse with more upload', () => {
    check(fc.tuple(shows, fc.integer({ min: 1, max: 3000 })), 60, ([show, more]) => {
      expect(isAtLeast(fitOrSkip(withUpload(show, more)).worth, fitOrSkip(show).worth)).toBe(true)
    })
  })

  it('is never better with a pin, but for what a larger picture has to earn and a pinned one has not', () => {
    const pins = fc.constantFrom('size', 'frame rate', 'codec', 'video bitrate', 'effort')
    check(fc.tuple(shows, pins, fc.nat()), 60, ([show, pin, at]) => {
      const index = at % show.destinations.length
      const pinnedShow = {
        ...show,
        destinations: show.destinations.map((destination, position) =>
          position === index
            ? {
                ...destination,
                renditions: destination.renditions.map((rendition) => ({
                  ...rendition,
                  pins: [...new Set([...rendition.pins, pin])],
                })),
              }
            : destination,
        ),
      } as PlannedShow
      const [free, held] = [fitOrSkip(show).worth, fitOrSkip(pinnedShow).worth]
      const pinned = show.destinations[index]!
      // What a relay is pinned to all get that it feeds.
      const priorities = (pinned.connection === 'relay' ? show.destinations : [pinned]).map(
        ({ plan }) => plan.priority,
      )
      const shapeMargin =
        show.fit.shapeMarginPoints *
        scoreUnitsPerPoint *
        priorities.reduce((sum, priority) => sum + priority, 0)
      const allowances: Partial<Record<typeof pin, number>> = {
        // It need not be one of the steps, so that it can be a little better.
        'video bitrate': Infinity,
        size: shapeMargin,
        'frame rate': shapeMargin,
      }
      const most = free && { ...free, scoreUnits: free.scoreUnits + (allowances[pin] ?? 0) }
      expect(isAtLeast(most, held)).toBe(true)
    })
  })

  it('does not depend on the order of the destinations', () => {
    check(shows, 60, (show) => {
      const turned = { ...show, destinations: [...show.destinations].reverse() }
      expect(fitOrSkip(turned).worth).toEqual(fitOrSkip(show).worth)
    })
  })

  it('keeps every rule, the line, the paths, the computer and the disk', () => {
    check(shows, 60, (show) => {
      const result = fitOrSkip(show)
      if (!result.parts) return
      const after = planned(show, result)
      expect(allBreaches(after)).toEqual([])
      expect(budgetOf(after).spareKbps).toBeGreaterThanOrEqual(0)
      expect(overloads(after)).toEqual([])
      expect(pathCeilings(after).every(({ fits }) => fits)).toBe(true)
      expect(budgetOf(after).encodeCount).toBe(result.worth?.encodes)
      for (const { plan, name } of after.destinations)
        if (plan.mustKeep) expect(`${name} ${plan.leftOut}`).toBe(`${name} false`)
    })
  })

  it('leaves pinned cells as they are, and asks no new question', () => {
    check(shows, 60, (show) => {
      const after = planned(show, fitOrSkip(show))
      expect(planningKey(after)).toBe(planningKey(show))
      expect(fitOrSkip(after).worth).toEqual(fitOrSkip(show).worth)
    })
  })
})
