import { boundAt, lowBound, type Part, partOf, uploadBound } from './bounds'
import type { Columns, ColumnsAndCurves } from './columns'
import { CurveWriter, leastPoint } from './curves'
import { searchLabels } from './labels'
import type { Resources } from './resources'
import { split } from './split'
import type { Found } from './structures'
import { narrowed, type Task } from './task'

export interface Shortfall {
  /** Points are of the curves that were given, each the lowest. */
  found: Found | null
  isProven: boolean
}

/** How far a search goes that has to be exact before it splits its task in two instead. */
const exactLimits = { each: Infinity, inAll: 40_000, columns: Infinity, ofKind: Infinity }
/** How many quick looks for a good plan there are, and how wide each is. */
const quickLooks = [
  { rounds: 8, each: 8 },
  { rounds: 16, each: 48 },
  { rounds: 32, each: 300 },
] as const

/**
 * The plan that leaves out least and then has fewest below the floor, whatever its scores: the
 * columns are worth nothing but what they fall short, and every encode has its lowest bitrate.
 */
export function leastShortfall(
  { components, curves }: ColumnsAndCurves,
  demands: number,
  resources: Resources,
): Shortfall {
  const parts = frugalParts({ components, curves }, demands)
  let found: Found | null = null
  const floor = (): number => (found ? found.value + 0.5 : -Infinity)
  const better = (next: Found | null): void => {
    if (next && (!found || next.value > found.value)) found = next
  }
  const asGiven = (): Found | null =>
    found && {
      ...found,
      chosen: found.chosen.map(({ part, column }) => ({
        part,
        column,
        point: leastPoint(curves, components[part]!.curve[column]!),
      })),
    }

  let task: Task = { parts, bound: uploadBound(parts, resources) }
  if (task.bound.most === -Infinity) return { found, isProven: true }
  for (const { rounds, each } of quickLooks) {
    const known = (found as Found | null)?.value ?? null
    const bound = lowBound(task.parts, resources, task.bound, known, rounds)
    if (bound.most < floor()) return { found: asGiven(), isProven: true }
    task = narrowed({ parts: task.parts, bound }, floor(), resources)
    const limits = { each, inAll: 40 * exactLimits.inAll, columns: 6 + each / 8, ofKind: 2 }
    better(searchLabels(task.parts, task.bound, resources, floor(), limits).found)
  }
  const open: Task[] = [task]
  while (open.length > 0) {
    const next = narrowed(open.pop()!, floor(), resources)
    if (next.bound.most < floor()) continue
    const exact = searchLabels(next.parts, next.bound, resources, floor(), exactLimits)
    better(exact.found)
    if (exact.isExhaustive) continue
    const known = (found as Found | null)?.value ?? null
    const halves = split(next.parts).map((half): Task => {
      const bound = boundAt(half, next.bound.prices, resources)
      return { parts: half, bound: lowBound(half, resources, bound, known, 8) }
    })
    // The more promising half is looked at first, so it is put on top.
    halves.sort((a, b) => a.bound.most - b.bound.most)
    open.push(...halves.filter(({ bound }) => bound.most >= floor()))
  }
  return { found: asGiven(), isProven: true }
}

/** Of the columns for one group and device only those that use least. */
function frugalParts({ components, curves }: ColumnsAndCurves, demands: number): Part[] {
  const writer = new CurveWriter()
  const frugal = components.map((columns) => {
    const leastWire = columns.curve.map((curve) => curves.wire[leastPoint(curves, curve)]!)
    const curve = columns.below.map((below, column) => {
      writer.add(leastWire[column]!, -(columns.leftOutWeight[column]! * (demands + 1) + below), -1)
      return writer.end()!
    })
    return { columns: { ...columns, curve }, inPlay: mostFrugal(columns, leastWire) }
  })
  const single = writer.finish()
  return frugal.map(({ columns, inPlay }) => partOf(columns, single, inPlay))
}

function mostFrugal(columns: Columns, leastWire: Int32Array): Int32Array {
  const { mask, device, relays, below, group, load, disk } = columns
  const isAsFrugal = (a: number, b: number): boolean =>
    leastWire[a]! <= leastWire[b]! && load[a]! <= load[b]! && disk[a]! <= disk[b]!
  const fronts = new Map<string, number[]>()
  for (let column = 0; column < columns.count; column += 1) {
    const key = `${mask[column]} ${device[column]} ${relays[column]} ${below[column]} ${group[column]}`
    const front = fronts.get(key) ?? []
    if (front.some((kept) => isAsFrugal(kept, column))) continue
    fronts.set(key, [...front.filter((kept) => !isAsFrugal(column, kept)), column])
  }
  // By number, and so by mask.
  return Int32Array.from([...fronts.values()].flat()).sort()
}
