import { runToEnd } from '../runToEnd'
import fc from 'fast-check'
import type { Columns, ColumnsAndCurves } from './columns'
import { columnUseOf } from './columnUse'
import { CurveWriter } from './curves'
import { type Subproblem, subproblemOf } from './subproblems'
import type { Resources } from './resources'

/** Columns made by chance, without a show behind them, and all that can be chosen of them. */
export const members = 3
const full = (1 << members) - 1
const devices = 2
/** Upload, disk, two loads, two session counts, one relay, left out, below. */
const layout = {
  ...{ upload: 0, disk: 1, load: 2, sessions: 4, relays: 6, leftOut: 7, below: 8 },
  count: 9,
}
export const resources = (capacity: readonly number[]): Resources => ({
  ...layout,
  capacity: Float64Array.from(capacity),
})

export interface Drawn {
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
export const problem = fc.record({
  components: fc.array(component, { minLength: 1, maxLength: 2 }),
  capacity: fc.tuple(
    ...[whole(4, 30), whole(0, 4), whole(0, 2), whole(0, 2)],
    ...[whole(0, 3), whole(0, 3), whole(0, 1), whole(0, 6), whole(0, 2)],
  ),
})

/** The drawn columns as the search takes them, and each with the points that are left on its curve. */
export function written(components: readonly (readonly Drawn[])[]) {
  const writer = new CurveWriter()
  const made = components.map((drawn): Columns => {
    const sorted = [...drawn].sort((a, b) => a.mask - b.mask)
    const curve = sorted.map(({ points }) => {
      points.forEach(([wire, value], bitrate) => writer.add(wire, value, bitrate))
      return writer.end()!
    })
    const field = (name: keyof Omit<Drawn, 'points'>) => sorted.map((each) => each[name])
    const columns = {
      members: Array.from({ length: members }, (_, member) => member),
      routes: [],
      isComplete: true,
      count: sorted.length,
      mask: Float64Array.from(field('mask')),
      group: Int32Array.from(sorted.keys()),
      relays: Float64Array.from(field('relays')),
      below: Int32Array.from(field('below')),
      leftOutWeight: Int32Array.from(field('leftOutWeight')),
      disk: Int32Array.from(field('disk')),
      device: Int32Array.from(field('device')),
      load: Float64Array.from(field('load')),
      shape: Int32Array.from(sorted.keys()),
      curve: Int32Array.from(curve),
    }
    return { ...columns, use: columnUseOf(columns, layout) }
  })
  return { components: made, curves: writer.finish() } satisfies ColumnsAndCurves
}

/** Everything that a choice of columns uses, in the order of the resources. */
export const useOf = (chosen: readonly { drawn: Drawn; wire: number }[]): number[] => {
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

export type DrawnPlan = { drawn: Drawn; wire: number; value: number }[]

/** Every choice of columns that serves each member of a component once, with every point of each. */
export function everyPlanOf(drawn: readonly Drawn[], left = full): DrawnPlan[] {
  if (left === 0) return [[]]
  const lowest = left & -left
  return drawn
    .filter(({ mask }) => (mask & lowest) !== 0 && (mask & ~left) === 0)
    .flatMap((own) =>
      everyPlanOf(drawn, left ^ own.mask).flatMap((rest) =>
        own.points.map(([wire, value]) => [{ drawn: own, wire, value }, ...rest]),
      ),
    )
}

/**
 * Every choice for all components that keeps within the capacity. What a choice uses only grows, so
 * that one that is over it already is not gone on with; nothing else is left out.
 */
export function fitting(
  components: readonly (readonly Drawn[])[],
  capacity: readonly number[],
): DrawnPlan[] {
  const fits = (plan: DrawnPlan) =>
    useOf(plan).every((amount, index) => amount <= capacity[index]! + 1e-9)
  return components.reduce<DrawnPlan[]>(
    (plans, drawn) => {
      const own = everyPlanOf(drawn).filter(fits)
      return plans.flatMap((plan) => own.map((rest) => [...plan, ...rest])).filter(fits)
    },
    [[]],
  )
}
export const bestOf = (values: readonly number[]): number | null =>
  values.length > 0 ? Math.max(...values) : null

/** All of a problem's columns in play. */
export const allInPlay = ({ components, curves }: ColumnsAndCurves): Subproblem[] =>
  components.map((columns) =>
    runToEnd(subproblemOf(columns, curves, Int32Array.from(columns.mask.keys()))),
  )
