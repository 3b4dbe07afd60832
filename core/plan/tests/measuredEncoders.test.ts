import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { encodedPictureOf, judgedOn, pictureScore } from '../../media'
import type { Show } from '../../show'
import { scoreUnitsPerPoint, unitsOfDemand } from '../problem/problem'
import { showProblem } from '../problem/showProblem'
import { solving } from '../search/solve'
import { planFrom, withPlan } from '../showPlan'
import { brokenConstraints } from './constraints'
import { check } from './propertyRuns'
import { randomShow } from './testShows'
import { wildPicture } from './wildPictures'

const maxSteps = 3000

function planned(show: Show) {
  const made = showProblem(show)
  const run = solving(made.problem, made.preferences)
  for (let steps = 0; ; steps += 1) {
    const { value, done } = run.next()
    if (done || steps > maxSteps) return { made, ...value }
  }
}

/** Shows on devices of which each was measured otherwise, some of them at some efforts alone. */
const measured = fc
  .tuple(
    fc.integer({ min: 1, max: 100_000 }),
    fc.integer({ min: 1, max: 6 }),
    fc.infiniteStream(fc.constantFrom(undefined, undefined, 0.4, 0.9, 1, 1.3, 2.2)),
    fc.boolean(),
  )
  .map(([from, destinations, efficiencies, isOwn]): Show => {
    const show = randomShow(from, { destinations, grain: 'fine', marginPoints: 0.5 }) as Show
    return {
      ...show,
      ...(isOwn && { pictureKind: 'own', ownPicture: wildPicture(from) }),
      computer: {
        ...show.computer,
        devices: show.computer.devices.map((device) => ({
          ...device,
          throughputs: device.throughputs.map((each) => {
            const efficiency = efficiencies.next().value
            return efficiency === undefined ? each : { ...each, efficiency }
          }),
        })),
      },
    }
  })

describe('plans for encoders that were measured', () => {
  it('keep every constraint, and score as the show does that they make', () => {
    check(measured, 60, (show) => {
      const { made, solution } = planned(show)
      if (!solution) return
      expect(brokenConstraints(made.problem, solution)).toEqual([])
      const { destinations } = withPlan(show, planFrom(show, made, solution))
      made.sources.forEach(({ kind, id, step }, demand) => {
        const units = unitsOfDemand(made.problem, solution, demand)
        const sent = destinations.find((each) => each.id === id)
        if (kind !== 'destination' || units === null || !sent) return
        const screens = judgedOn(sent.viewers, step)
        const scores = screens.map((screen) =>
          pictureScore(sent.renditions[step]!, encodedPictureOf(show), screen),
        )
        const mean = scores.reduce((sum, score) => sum + score, 0) / scores.length
        const { priority } = made.problem.demands[demand]!
        const steps = made.sources.filter((source) => source.id === id).length
        // Units are rounded, each demand by itself.
        expect(Math.abs(units / priority - (mean * scoreUnitsPerPoint) / steps)).toBeLessThan(1)
      })
    })
  })

  it('take the device that gets more out of a bit, all else being the same', () => {
    const options = { destinations: 1, grain: 'fine', devices: 2, marginPoints: 0 } as const
    const show = randomShow(7, options) as Show
    const [one] = show.computer.devices
    const better = (which: number): Show => ({
      ...show,
      computer: {
        ...show.computer,
        devices: ['first', 'second'].map((id, index) => ({
          ...{ ...one!, id, sessions: null, plannedSharePercent: 100 },
          throughputs: one!.throughputs.map((each) => ({
            ...each,
            megapixelsPerSecond: 100_000,
            efficiency: index === which ? 1.5 : 1,
          })),
        })),
      },
      destinations: show.destinations.map((each) => ({
        ...each,
        renditions: each.renditions.map((rendition) => ({ ...rendition, pins: [] })),
      })),
      lines: show.lines.map((line) => ({
        ...line,
        samples: line.samples.map((sample) => ({ ...sample, uploadKbps: 2500 })),
      })),
    })
    for (const which of [0, 1]) {
      const changed = better(which)
      const { made, solution } = planned(changed)
      const { destinations } = withPlan(changed, planFrom(changed, made, solution!))
      expect(destinations[0]?.renditions[0]?.encoder.deviceId).toBe(['first', 'second'][which])
    }
  })
})
