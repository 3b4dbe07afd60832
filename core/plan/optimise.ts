import { type Bound, boundAt, lowBound, type Part, uploadBound } from './bounds'
import { type Found, searchLabels } from './labels'
import type { Resources } from './resources'
import { split } from './split'

export interface Optimum {
  found: Found | null
  /** No plan is worth more than this. */
  most: number
  isProven: boolean
}

/** How far a search goes that has to be exact before it splits its task in two instead. */
const exactLimits = { each: Infinity, inAll: 40_000, columns: Infinity, ofKind: Infinity }
/** How many quick looks for a good plan there are, and how wide each is. */
const quickLooks = [
  { rounds: 0, each: 8 },
  { rounds: 10, each: 16 },
  { rounds: 16, each: 48 },
  { rounds: 24, each: 160 },
  { rounds: 40, each: 600 },
] as const

/** A look this wide that finds nothing better is taken for the last. */
const enoughForALook = 160

interface Task {
  parts: readonly Part[]
  bound: Bound
}

/** The columns that could still be part of a plan worth at least `floor`. */
export function stillInPlay(parts: readonly Part[], bound: Bound, floor: number): Part[] {
  return parts.map((part, index) => {
    const { full, best, priced } = bound.parts[index]!
    const most = bound.most - best[full]!
    const { mask } = part.columns
    return {
      ...part,
      inPlay: part.inPlay.filter(
        (column, at) => most + priced[at]! + best[full ^ mask[column]!]! >= floor,
      ),
    }
  })
}

/** The columns that differ from those of a plan in nothing but the bitrate. */
function alikeButBitrate(parts: readonly Part[], { chosen }: Found): Part[] {
  return parts.map((part, index) => {
    const { mask, device, shape, group } = part.columns
    const own = chosen.flatMap(([of, column]) => (of === index ? [column] : []))
    return {
      ...part,
      inPlay: part.inPlay.filter((column) =>
        own.some(
          (other) =>
            mask[other] === mask[column] &&
            device[other] === device[column] &&
            shape[other] === shape[column] &&
            group[other] === group[column],
        ),
      ),
    }
  })
}

/**
 * The selection of columns that is worth most, every demand in exactly one of them. Yields what it
 * has whenever that gets better, and between tasks, so that it can be stopped. Worths are whole
 * numbers. With `isOneLookEnough` it gives up where the first quick look finds nothing.
 */
export function* optimise(
  parts: readonly Part[],
  resources: Resources,
  start: Found | null = null,
  { isOneLookEnough = false } = {},
): Generator<Optimum, Optimum> {
  let found = start
  // Worths are whole, so that a better plan is better by one; half of that is left for rounding.
  const floor = (): number => (found ? found.value + 0.5 : -Infinity)
  const better = (next: Found | null): boolean => {
    if (!next || (found && next.value <= found.value)) return false
    found = next
    return true
  }
  /** Looks for a better plan along promising lines, and then for the best bitrates of what it found. */
  const look = ({ parts: within, bound }: Task, each: number): boolean => {
    const limits = { each, inAll: 40 * exactLimits.inAll, columns: 6 + each / 8, ofKind: 2 }
    if (!better(searchLabels(within, bound, resources, floor(), limits).found)) return false
    const alike = alikeButBitrate(within, found as Found)
    const nearby = lowBound(alike, resources, boundAt(alike, bound.prices, resources), floor(), 8)
    const last = narrowed({ parts: alike, bound: nearby }, floor(), resources)
    better(searchLabels(last.parts, last.bound, resources, floor(), exactLimits).found)
    return true
  }

  let task: Task = { parts, bound: uploadBound(parts, resources) }
  if (task.bound.most === -Infinity) return { found: null, most: -Infinity, isProven: true }
  for (const { rounds, each } of quickLooks) {
    if (found) task = narrowed(task, floor(), resources)
    task.bound = lowBound(task.parts, resources, task.bound, found?.value ?? null, rounds)
    if (task.bound.most < floor()) return { found, most: task.bound.most, isProven: true }
    if (look(task, each)) yield { found, most: task.bound.most, isProven: false }
    else if (found && each >= enoughForALook) break
    if (!found && isOneLookEnough) return { found, most: task.bound.most, isProven: false }
  }

  const open: Task[] = [task]
  while (open.length > 0) {
    const next = narrowed(open.pop() as Task, floor(), resources)
    if (next.bound.most < floor()) continue
    const exact = searchLabels(next.parts, next.bound, resources, floor(), exactLimits)
    better(exact.found)
    if (!exact.isExhaustive) {
      const children = split(next.parts).map((child): Task => {
        const bound = boundAt(child, next.bound.prices, resources)
        return { parts: child, bound: lowBound(child, resources, bound, found?.value ?? null, 8) }
      })
      // The more promising half is looked at first, so it is put on top.
      children.sort((a, b) => a.bound.most - b.bound.most)
      open.push(...children.filter(({ bound }) => bound.most >= floor()))
    }
    const most = Math.max(found?.value ?? -Infinity, ...open.map(({ bound }) => bound.most))
    yield { found, most, isProven: false }
  }
  return { found, most: found?.value ?? -Infinity, isProven: true }
}

/** Without the columns that can no longer matter. */
function narrowed({ parts, bound }: Task, floor: number, resources: Resources): Task {
  const kept = stillInPlay(parts, bound, floor)
  return { parts: kept, bound: boundAt(kept, bound.prices, resources) }
}
