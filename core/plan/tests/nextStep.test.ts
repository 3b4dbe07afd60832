import { describe, expect, it } from 'vitest'
import type { Rendition, Show } from '../../show'
import { allBreaches, budgetOf, overloads } from '../../fit'
import { type NextStep, nextStepInWords, nextStepOf } from '../advice/nextStep'
import { type FitResult, fitShow } from '../fitShow'
import { scoreUnitsPerPoint } from '../problem/problem'
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
/** What planning again does to each that is kept, in points, against what the step says of it. */
function untold(
  show: Show,
  stepped: string,
  next: NextStep,
  { before, after }: { before: FitResult; after: FitResult },
): string[] {
  const wanted = [
    ...show.destinations.map(({ id, name, plan }) => ({ id, name, priority: plan.priority })),
    ...show.recordings.map(({ id, name, plan }) => ({ id, name, priority: plan.priority })),
  ]
  return wanted.flatMap(({ id, name, priority }) => {
    const [had, has] = [before.unitsById[id], after.unitsById[id]]
    if (had === undefined || (has === undefined && id !== stepped)) return []
    const gained = ((has ?? 0) - had) / scoreUnitsPerPoint / priority
    const told =
      id === stepped
        ? next.gainPoints
        : (next.lifts.find((lift) => lift.name === name)?.points ?? 0) -
          (next.costs?.find((cost) => cost.name === name)?.points ?? 0)
    return Math.abs(gained - told) <= 0.06 ? [] : [`${name}: ${told} told, ${gained} gained`]
  })
}

/** Who is pushed below the floor by planning again, among those that have one picture. */
function pushedBelow(
  { destinations, fit }: Show,
  stepped: string,
  { before, after }: { before: FitResult; after: FitResult },
): string[] {
  const isBelow = (units: number, priority: number): boolean =>
    units < Math.round(fit.floorScore * scoreUnitsPerPoint) * priority
  return destinations
    .filter(({ id, renditions, plan: { priority } }) => {
      const [had, has] = [before.unitsById[id], after.unitsById[id]]
      if (id === stepped || renditions.length > 1) return false
      if (had === undefined || has === undefined) return false
      return !isBelow(had, priority) && isBelow(has, priority)
    })
    .map(({ name }) => name)
}

const toldOf = ({ costs }: NextStep): string[] =>
  (costs ?? [])
    .filter(({ isLeftOut }) => isLeftOut)
    .map(({ name }) => name)
    .sort()

describe('the next step up', () => {
  // 3: the step takes another destination below the floor.
  it.each(casesOf(seeds, (seed) => seed % 4 === 0 || seed === 3))(
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
      if (!next.costs) {
        expect(after.worth).toBeNull()
        return
      }
      expect(after.worth).not.toBeNull()
      // Nobody else loses its place than the step itself says.
      expect(lostIn(show, before.parts, after.parts!)).toEqual(toldOf(next))
      expect(untold(show, first!.id, next, { before, after })).toEqual([])
      const fallen = next.costs.filter(({ fallsBelowFloor }) => fallsBelowFloor)
      expect(fallen.map(({ name }) => name)).toEqual(
        expect.arrayContaining(pushedBelow(show, first!.id, { before, after })),
      )
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
        expect(untold(show, id, next, { before, after })).toEqual([])
        const page = withPlan(stepped, after.parts!)
        expect(budgetOf(page).spareKbps).toBeGreaterThanOrEqual(0)
        expect([...allBreaches(page), ...overloads(page)]).toEqual([])
      }
    },
  )
})

describe('the words of a next step', () => {
  const rendition = randomShow(1, { destinations: 1, grain: 'coarse' }).destinations[0]!
    .renditions[0]!
  const step: NextStep = { rendition, gainPoints: 1.2, costs: [], lifts: [] }
  const cost = { name: 'Hedgerow', points: 3.4, isLeftOut: false, fallsBelowFloor: false }
  it.each([
    [[], /gains 1.2 points and costs the others nothing\.$/],
    [[cost], /and costs Hedgerow 3.4 points\.$/],
    [
      [{ ...cost, fallsBelowFloor: true }],
      /Hedgerow 3.4 points, below the floor for the picture\.$/,
    ],
    [[{ ...cost, isLeftOut: true }], /costs Hedgerow its place\.$/],
    [null, /but no plan has room for it\.$/],
  ])('say what it costs: %j', (costs, words) => {
    expect(nextStepInWords({ ...step, costs })).toMatch(words)
  })
})
