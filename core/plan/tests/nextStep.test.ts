import { describe, expect, it } from 'vitest'
import type { Rendition, Show } from '../../show'
import { nextStepInWords, nextStepOf } from '../advice/nextStep'
import { fitShow } from '../fitShow'
import { type PlanParts, withPlan } from '../showPlan'
import { randomShow } from './testShows'

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

describe('the next step up', () => {
  it.each(seeds)('is what planning again gives, seed %i', (seed) => {
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
    const isGone = (parts: PlanParts, id: string): boolean =>
      parts.find((part) => part.id === id)?.leftOut ?? false
    const lost = [...show.destinations, ...show.recordings].filter(
      ({ id }) => isGone(after.parts!, id) && !isGone(before.parts!, id),
    )
    const told = next.costs.filter(({ isLeftOut }) => isLeftOut).map(({ name }) => name)
    expect(lost.map(({ name }) => name).sort()).toEqual(told.sort())
  })
})
