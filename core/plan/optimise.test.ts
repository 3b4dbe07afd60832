import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Columns, ColumnsAndCurves } from './columns'
import { CurveWriter } from './curves'
import { optimise } from './optimise'
import { partOf } from './parts'
import type { Resources } from './resources'
import { leastShortfall } from './shortfall'

const members = 3
const full = (1 << members) - 1
const devices = 2
/** Upload, disk, two loads, two session counts, one relay, left out, below. */
const resources = (capacity: readonly number[]): Resources => ({
  capacity: Float64Array.from(capacity),
  ...{ upload: 0, disk: 1, load: 2, sessions: 4, relays: 6, leftOut: 7, below: 8 },
})

interface Drawn {
  mask: number
  device: number
  load: number
  disk: number
  relays: number
  below: number
  leftOutWeight: number
  points: [number, number][]
}

const whole = (min: number, max: number) => fc.integer({ min, max })
const column: fc.Arbitrary<Drawn> = fc
  .record({
    mask: whole(1, full),
    device: whole(-1, devices - 1),
    load: whole(0, 4),
    disk: whole(0, 2),
    relays: whole(0, 1),
    below: whole(0, 1),
    leftOutWeight: whole(0, 3),
    points: fc.array(fc.tuple(whole(0, 12), whole(-5, 40)), { minLength: 1, maxLength: 4 }),
  })
  .map((drawn) => ({
    ...drawn,
    load: drawn.device < 0 ? 0 : drawn.load / 4,
    points: drawn.points.sort((a, b) => a[0] - b[0]),
  }))
const component = fc.array(column, { minLength: 1, maxLength: 8 })
const problem = fc.record({
  components: fc.array(component, { minLength: 1, maxLength: 2 }),
  capacity: fc.tuple(
    ...[whole(4, 30), whole(0, 4), whole(0, 2), whole(0, 2)],
    ...[whole(0, 3), whole(0, 3), whole(0, 1), whole(0, 6), whole(0, 2)],
  ),
})

/** The drawn columns as the search takes them, and each with the points that are left on its curve. */
function written(components: readonly (readonly Drawn[])[]) {
  const writer = new CurveWriter()
  const made = components.map((drawn): Columns => {
    const sorted = [...drawn].sort((a, b) => a.mask - b.mask)
    const curve = sorted.map(({ points }) => {
      points.forEach(([wire, value], bitrate) => writer.add(wire, value, bitrate))
      return writer.end()!
    })
    const field = (name: keyof Omit<Drawn, 'points'>) => sorted.map((each) => each[name])
    return {
      members: Array.from({ length: members }, (_, member) => member),
      routes: [],
      isComplete: true,
      count: sorted.length,
      mask: Int32Array.from(field('mask')),
      group: Int32Array.from(sorted.keys()),
      relays: Int32Array.from(field('relays')),
      below: Int32Array.from(field('below')),
      leftOutWeight: Int32Array.from(field('leftOutWeight')),
      disk: Int32Array.from(field('disk')),
      device: Int32Array.from(field('device')),
      load: Float64Array.from(field('load')),
      shape: Int32Array.from(sorted.keys()),
      curve: Int32Array.from(curve),
    }
  })
  return { components: made, curves: writer.finish() } satisfies ColumnsAndCurves
}

/** Everything that a choice of columns uses, in the order of the resources. */
const useOf = (chosen: readonly { drawn: Drawn; wire: number }[]): number[] => {
  const used = new Array<number>(9).fill(0)
  for (const { drawn, wire } of chosen) {
    used[0]! += wire
    used[1]! += drawn.disk
    if (drawn.device >= 0) {
      used[2 + drawn.device]! += drawn.load
      used[4 + drawn.device]! += 1
    }
    used[6]! += drawn.relays
    used[7]! += drawn.leftOutWeight
    used[8]! += drawn.below
  }
  return used
}

/** Every choice of columns that serves each member once, with every point of each. */
function everyPlan(components: readonly (readonly Drawn[])[]) {
  type Plan = { drawn: Drawn; wire: number; value: number }[]
  const served = (drawn: readonly Drawn[], left: number): Plan[] => {
    if (left === 0) return [[]]
    const lowest = left & -left
    return drawn
      .filter(({ mask }) => (mask & lowest) !== 0 && (mask & ~left) === 0)
      .flatMap((own) =>
        served(drawn, left ^ own.mask).flatMap((rest) =>
          own.points.map(([wire, value]) => [{ drawn: own, wire, value }, ...rest]),
        ),
      )
  }
  return components.reduce<Plan[]>(
    (plans, drawn) => served(drawn, full).flatMap((own) => plans.map((plan) => [...plan, ...own])),
    [[]],
  )
}

const fitting = (components: readonly (readonly Drawn[])[], capacity: readonly number[]) =>
  everyPlan(components).filter((plan) =>
    useOf(plan).every((amount, index) => amount <= capacity[index]! + 1e-9),
  )
const bestOf = (values: readonly number[]): number | null =>
  values.length > 0 ? Math.max(...values) : null

function ended<Last>(run: Generator<unknown, Last>): Last {
  for (;;) {
    const step = run.next()
    if (step.done) return step.value
  }
}

describe('the search', () => {
  it('finds the plan that trying every one finds, and proves it', () => {
    fc.assert(
      fc.property(problem, ({ components, capacity }) => {
        const { components: made, curves } = written(components)
        const parts = made.map((columns) =>
          partOf(
            columns,
            curves,
            Int32Array.from({ length: columns.count }, (_, at) => at),
          ),
        )
        const { found, isProven } = ended(optimise(parts, resources(capacity)))
        expect(isProven).toBe(true)
        const best = bestOf(
          fitting(components, capacity).map((plan) =>
            plan.reduce((sum, { value }) => sum + value, 0),
          ),
        )
        expect(found?.value ?? null).toBe(best)
      }),
      { numRuns: 1000 },
    )
  })

  it.each(['leftOutWeight', 'below'] as const)('finds the least that falls short, %s', (aim) => {
    fc.assert(
      fc.property(problem, ({ components, capacity: drawn }) => {
        const all = written(components)
        // Whoever is below the floor does not matter until it is settled who is left out.
        const capacity = aim === 'below' ? drawn : [...drawn.slice(0, -1), members * 2]
        const { found, isProven } = ended(leastShortfall(all, aim, resources(capacity)))
        expect(isProven).toBe(true)
        const least = bestOf(
          fitting(components, capacity).map((plan) =>
            plan.reduce((sum, { drawn }) => sum - drawn[aim], 0),
          ),
        )
        const short = found?.chosen.reduce(
          (sum, { part, column: chosen }) => sum - all.components[part]![aim][chosen]!,
          0,
        )
        expect(short ?? null).toBe(least)
      }),
      { numRuns: 500 },
    )
  })
})
