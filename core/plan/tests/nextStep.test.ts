import { describe, expect, it } from 'vitest'
import type { Rendition, Show } from '../../show'
import { allBreaches, budgetOf, overloads } from '../../fit'
import { type NextStep, nextStepInWords, nextStepOf } from '../advice/nextStep'
import { fitShow } from '../fitShow'
import { type PlanParts, withPlan } from '../showPlan'
import { randomShow } from './testShows'
import { wildShow } from './wildShows'
import { casesOf } from '../../../tests/tier'

const seeds = Array.from({ length: 40 }, (_, index) => index + 1)

/** The show with a destination's main rendition as given, and nothing of it left to the planner. */
const held = (show: Show, id: string, rendition: Rendition): Show => ({
  ...show,
  destinations: show.destinations.map((each) =>
    each.id === id
      ? {
          ...each,
          plan: { ...each.plan, mustKeep: true },
          renditions: [
            {
              ...rendition,
              pins: ['size', 'frame rate', 'codec', 'effort', 'video bitrate'],
            },
            ...each.renditions.slice(1),
          ],
        }
      : each,
  ),
})

/** Whom a plan costs its place that had one in another. */
function lostIn(show: Show, before: PlanParts, after: PlanParts): string[] {
  const isGone = (parts: PlanParts, id: string): boolean =>
    parts.find((part) => part.id === id)?.leftOut ?? false
  return [...show.destinations, ...show.recordings]
    .filter(({ id }) => isGone(after, id) && !isGone(before, id))
    .map(({ name }) => name)
    .sort()
}
const toldOf = ({ costs }: NextStep): string[] =>
  (costs ?? [])
    .filter(({ isLeftOut }) => isLeftOut)
    .map(({ name }) => name)
    .sort()

describe('the next step up', () => {
  it.each(casesOf(seeds, (seed) => seed % 4 === 0))(
    'is what planning again gives, seed %i',
    (seed) => {
      const given = randomShow(seed, {
        destinations: 1 + (seed % 5),
        grain: 'coarse',
        relay: seed % 3 === 0,
        recording: seed % 4 === 0,
      })
      const before = fitShow(given)
      if (!before.parts || !before.worth) return
      const show = withPlan(given as Show, before.parts)
      const [first] = show.destinations
      const next = nextStepOf(show, first!.id)
      if (!next) return
      expect(next.gainPoints).toBeGreaterThanOrEqual(1)
      // Only frame rates that come out of the canvases' evenly.
      expect(show.canvasPair.framesPerSecond % next.rendition.framesPerSecond).toBe(0)
      expect(nextStepInWords(next)).toMatch(/^Next step up: .*\.$/)
      const after = fitShow(held(show, first!.id, next.rendition))
      if (!next.costs) return expect(after.worth).toBeNull()
      expect(after.worth).not.toBeNull()
      // Nobody else loses its place than the step itself says.
      expect(lostIn(show, before.parts, after.parts!)).toEqual(toldOf(next))
    },
  )

  // 68: a ladder whose main rendition is pinned and would be left out.
  it.each(casesOf([68, ...seeds], (seed) => seed % 4 === 0))(
    'of a show that is seldom drawn is true, seed %i',
    (seed) => {
      const given = wildShow(seed, 1 + (seed % 5))
      const before = fitShow(given)
      if (!before.parts) return
      const show = withPlan(given, before.parts)
      for (const { id } of show.destinations.slice(0, 2)) {
        const next = nextStepOf(show, id)
        if (!next) continue
        expect(next.gainPoints).toBeGreaterThanOrEqual(1)
        // Where it is said that no plan has room for it, one may on another device, whose picture is worse.
        if (!next.costs) continue
        const stepped = held(show, id, next.rendition)
        const after = fitShow(stepped)
        expect(lostIn(show, before.parts, after.parts!)).toEqual(toldOf(next))
        const page = withPlan(stepped, after.parts!)
        expect(budgetOf(page).spareKbps).toBeGreaterThanOrEqual(0)
        expect([...allBreaches(page), ...overloads(page)]).toEqual([])
      }
    },
  )
})
