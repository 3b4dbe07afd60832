import { settleBitrates } from './bitrates'
import { type Bound, use } from './bounds'
import { leastPoint } from './curves'
import { bestPaths, fullState, type Part } from './parts'
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

  const orders = parts.map((part, index) => ordersOf(part, bound.parts[index]!.priced))
  const leastWires = parts.map(leastWireOf)
  // What all that comes after a component adds at best, and takes at least.
  const restPriced = new Float64Array(parts.length + 1)
  const restWire = new Float64Array(parts.length + 1)
  capacity.forEach((amount, index) => (restPriced[parts.length]! += bound.prices[index]! * amount))
  for (let part = parts.length - 1; part >= 0; part -= 1) {
    const full = fullState(parts[part]!)
    restPriced[part] = restPriced[part + 1]! + bound.parts[part]!.best[full]!
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

  const visit = (index: number, state: number, priced: number, wire: number): void => {
    if (state === 0) {
      const next = index + 1
      if (next < parts.length) visit(next, fullState(parts[next]!), priced, wire)
      else settle()
      return
    }
    const { columns, inPlay, firstMove, moveSet, moveTo } = parts[index]!
    const { best, priced: pricedHere } = bound.parts[index]!
    const leastWire = leastWires[index]!
    const promising: { order: Int32Array; after: number; rest: number; most: number }[] = []
    for (let move = firstMove[state]!; move < firstMove[state + 1]!; move += 1) {
      const order = orders[index]![moveSet[move]!]!
      const after = moveTo[move]!
      const rest = best[after]! + restPriced[index + 1]!
      const most = priced + pricedHere[order[0]!]! + rest
      if (most >= least) promising.push({ order, after, rest, most })
    }
    promising.sort((a, b) => b.most - a.most)
    for (const { order, after, rest } of promising) {
      const restLeast = leastWire[after]! + restWire[index + 1]!
      for (const place of order) {
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

/** The columns of each set, as places in `inPlay`, the best priced first. */
const ordersOf = ({ firstOfSet }: Part, priced: Float64Array): Int32Array[] =>
  Array.from({ length: firstOfSet.length - 1 }, (_, set) => {
    const length = firstOfSet[set + 1]! - firstOfSet[set]!
    const order = Int32Array.from({ length }, (_, at) => firstOfSet[set]! + at)
    return order.sort((a, b) => priced[b]! - priced[a]!)
  })

/** The least upload that the members of any state take. */
function leastWireOf(part: Part): Float64Array {
  const { columns, curves, inPlay, firstOfSet } = part
  const worthOfSet = new Float64Array(firstOfSet.length - 1).fill(-Infinity)
  for (let set = 0; set < worthOfSet.length; set += 1)
    for (let at = firstOfSet[set]!; at < firstOfSet[set + 1]!; at += 1) {
      const wire = curves.wire[leastPoint(curves, columns.curve[inPlay[at]!]!)]!
      worthOfSet[set] = Math.max(worthOfSet[set]!, -wire)
    }
  return bestPaths(part, worthOfSet).best.map((worth) => -worth)
}
