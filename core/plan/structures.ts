import { settleBitrates } from './bitrates'
import { type Bound, lowestMember, type Part, use } from './bounds'
import { leastPoint } from './curves'
import type { Resources } from './resources'

/** A column chosen, and the point on its curve. */
export interface Chosen {
  part: number
  column: number
  point: number
}

export interface Found {
  value: number
  chosen: Chosen[]
}

export interface StructureSearch {
  found: Found | null
  /** Whether everything worth at least `floor` was looked at. */
  isExhaustive: boolean
  steps: number
}

/** Columns that serve the same members: places in `inPlay`, the best priced first. */
interface MaskGroup {
  mask: number
  order: Int32Array
}

/**
 * Looks for the best plan worth at least `floor`, group by group, the most promising first: who
 * shares what in which shape on which device, as far as the resources reach, and for each way that
 * the bound does not rule out the best bitrates.
 */
export function searchStructures(
  parts: readonly Part[],
  bound: Bound,
  resources: Resources,
  floor: number,
  { mostSteps = Infinity, isFirstEnough = false } = {},
): StructureSearch {
  const { capacity } = resources
  const curves = parts[0]?.curves
  let found: Found | null = null
  let least = floor
  let steps = 0
  let isStopped = false

  const groups = parts.map((part, index) => groupsByLowest(part, bound.parts[index]!.priced))
  const leastWires = parts.map(leastWireOf)
  // What all that comes after a component adds at best, and takes at least.
  const restPriced = new Float64Array(parts.length + 1)
  const restWire = new Float64Array(parts.length + 1)
  capacity.forEach((amount, index) => (restPriced[parts.length]! += bound.prices[index]! * amount))
  for (let part = parts.length - 1; part >= 0; part -= 1) {
    const { best, full } = bound.parts[part]!
    restPriced[part] = restPriced[part + 1]! + best[full]!
    restWire[part] = restWire[part + 1]! + leastWires[part]![full]!
  }
  const used = new Float64Array(capacity.length)
  const chosen: { part: number; column: number }[] = []

  const fits = (columns: Part['columns'], column: number): boolean => {
    const device = columns.device[column]!
    if (used[1]! > capacity[1]!) return false
    if (used[resources.leftOut]! > capacity[resources.leftOut]!) return false
    if (used[resources.below]! > capacity[resources.below]!) return false
    if (device >= 0) {
      const [load, sessions] = [resources.load + device, resources.sessions + device]
      if (used[load]! > capacity[load]! || used[sessions]! > capacity[sessions]!) return false
    }
    for (let bits = columns.relays[column]!, relay = 0; bits > 0; bits >>= 1, relay += 1) {
      const index = resources.relays + relay
      if (bits & 1 && used[index]! > capacity[index]!) return false
    }
    return true
  }

  const settle = (): void => {
    if (!curves) {
      found ??= { value: 0, chosen: [] }
      return
    }
    const own = chosen.map(({ part, column }) => parts[part]!.columns.curve[column]!)
    const settled = settleBitrates(curves, own, capacity[0]!, least)
    if (!settled) return
    found = {
      value: settled.value,
      chosen: chosen.map((each, index) => ({ ...each, point: settled.points[index]! })),
    }
    least = settled.value + 0.5
    isStopped = isFirstEnough
  }

  const visit = (index: number, left: number, priced: number, wire: number): void => {
    if (left === 0) {
      const next = index + 1
      if (next < parts.length) visit(next, bound.parts[next]!.full, priced, wire)
      else settle()
      return
    }
    const { columns, inPlay } = parts[index]!
    const { best, priced: pricedHere } = bound.parts[index]!
    const leastWire = leastWires[index]!
    const promising: { group: MaskGroup; rest: number; most: number }[] = []
    for (const group of groups[index]![lowestMember(left)]!) {
      if ((group.mask & ~left) !== 0) continue
      const rest = best[left ^ group.mask]! + restPriced[index + 1]!
      const most = priced + pricedHere[group.order[0]!]! + rest
      if (most >= least) promising.push({ group, rest, most })
    }
    promising.sort((a, b) => b.most - a.most)
    for (const { group, rest } of promising) {
      const after = left ^ group.mask
      const restLeast = leastWire[after]! + restWire[index + 1]!
      for (const place of group.order) {
        if (priced + pricedHere[place]! + rest < least) break
        const column = inPlay[place]!
        const ownWire = curves!.wire[leastPoint(curves!, columns.curve[column]!)]!
        if (wire + ownWire + restLeast > capacity[0]!) continue
        steps += 1
        if (steps > mostSteps) isStopped = true
        if (isStopped) return
        use(used, columns, column, resources)
        if (fits(columns, column)) {
          chosen.push({ part: index, column })
          visit(index, after, priced + pricedHere[place]!, wire + ownWire)
          chosen.pop()
        }
        use(used, columns, column, resources, -1)
        if (isStopped) return
      }
    }
  }

  visit(-1, 0, 0, 0)
  return { found, isExhaustive: !isStopped, steps }
}

function groupsByLowest({ masks, from, byLowest }: Part, priced: Float64Array): MaskGroup[][] {
  return byLowest.map((indices) =>
    indices.map((index) => {
      const length = from[index + 1]! - from[index]!
      const order = Int32Array.from({ length }, (_, at) => from[index]! + at)
      return { mask: masks[index]!, order: order.sort((a, b) => priced[b]! - priced[a]!) }
    }),
  )
}

/** The least upload that any subset of a component's members takes. */
function leastWireOf({ columns, curves, inPlay, masks, from, byLowest }: Part): Float64Array {
  const wires = Array.from(masks, (_, index) =>
    inPlay
      .subarray(from[index], from[index + 1])
      .reduce(
        (least, column) =>
          Math.min(least, curves.wire[leastPoint(curves, columns.curve[column]!)]!),
        Infinity,
      ),
  )
  const full = (1 << columns.members.length) - 1
  const least = new Float64Array(full + 1).fill(Infinity)
  least[0] = 0
  for (let subset = 1; subset <= full; subset += 1)
    for (const index of byLowest[lowestMember(subset)]!)
      if ((masks[index]! & ~subset) === 0)
        least[subset] = Math.min(least[subset]!, wires[index]! + least[subset ^ masks[index]!]!)
  return least
}
