import { lowestIn } from './bitSets'
import type { Columns } from './columns'
import type { ResourceLayout } from './resources'

/**
 * What each column uses of each resource but the upload, which its bitrate decides: a sparse matrix,
 * its entries kept row by row (compressed sparse rows). The entries of a column stand from `first` of it
 * up to `first` of the next.
 */
export interface ColumnUse {
  first: Int32Array
  resource: Int32Array
  amount: Float64Array
}

type UsingColumns = Pick<
  Columns,
  'count' | 'disk' | 'leftOutWeight' | 'below' | 'device' | 'load' | 'relays'
>

/** The matrix for columns; the one place that says what a column uses of what. */
export function columnUseOf(columns: UsingColumns, layout: ResourceLayout): ColumnUse {
  const { count, disk, leftOutWeight, below, device, load, relays } = columns
  const first = new Int32Array(count + 1)
  const resource = new Int32Array(entriesOf(columns))
  const amount = new Float64Array(resource.length)
  let entries = 0
  const add = (index: number, used: number): void => {
    if (used === 0) return
    resource[entries] = index
    amount[entries] = used
    entries += 1
  }
  for (let column = 0; column < count; column += 1) {
    add(layout.disk, disk[column]!)
    add(layout.leftOut, leftOutWeight[column]!)
    add(layout.below, below[column]!)
    const own = device[column]!
    if (own >= 0) {
      add(layout.load + own, load[column]!)
      add(layout.sessions + own, 1)
    }
    for (let left = relays[column]!; left > 0; left -= 2 ** lowestIn(left))
      add(layout.relays + lowestIn(left), 1)
    first[column + 1] = entries
  }
  return { first, resource, amount }
}

/** How many entries the matrix has at the most: it is made at once, not grown. */
function entriesOf({ count, disk, leftOutWeight, below, device, relays }: UsingColumns): number {
  let entries = 0
  for (let column = 0; column < count; column += 1) {
    entries += Number(disk[column] !== 0) + Number(leftOutWeight[column] !== 0)
    entries += Number(below[column] !== 0) + (device[column]! >= 0 ? 2 : 0)
    for (let left = relays[column]!; left > 0; left -= 2 ** lowestIn(left)) entries += 1
  }
  return entries
}

/** Adds what a column uses to what is used already; `times` -1 takes it away again. */
export function addUse(
  used: Float64Array,
  { first, resource, amount }: ColumnUse,
  column: number,
  times = 1,
): void {
  for (let entry = first[column]!; entry < first[column + 1]!; entry += 1)
    used[resource[entry]!]! += times * amount[entry]!
}

/** Whether what is used stays within the capacity of all that a column uses. */
export function isWithin(
  capacity: Float64Array,
  used: Float64Array,
  { first, resource }: ColumnUse,
  column: number,
): boolean {
  for (let entry = first[column]!; entry < first[column + 1]!; entry += 1)
    if (used[resource[entry]!]! > capacity[resource[entry]!]!) return false
  return true
}

/** What a column's use costs at prices of the resources. */
export function costOfUse(
  prices: Float64Array,
  { first, resource, amount }: ColumnUse,
  column: number,
): number {
  let cost = 0
  for (let entry = first[column]!; entry < first[column + 1]!; entry += 1)
    cost += prices[resource[entry]!]! * amount[entry]!
  return cost
}
