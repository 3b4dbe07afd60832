import { boundAt } from './bounds'
import { firstBound, lowBoundAmongNear, nearlyBest } from './nearColumns'
import type { Part } from './parts'
import type { Resources } from './resources'
import { split } from './split'
import { type Found, searchStructures } from './structures'
import { narrowed, type Task } from './task'

export interface Optimum {
  found: Found | null
  /** No plan is worth more than this. */
  most: number
  isProven: boolean
}

/** How far the look for a first plan goes. */
const stepsForFirst = 4000
/** How far a search goes before it splits its task in two instead. */
const stepsForExact = 6000
/** How often the prices are improved before the first plan is looked for, after it, and in a half of a task. */
const rounds = { first: [16, 32, 64], after: 60, half: 16 } as const
/** Which share of the gap between the first plan and the bound the first search reaches into; then so many times as far. */
const firstReach = 1 / 32
const widening = 4

/**
 * The selection of columns and bitrates that is worth most, every demand in exactly one of them.
 * Yields what it has whenever that gets better, and between tasks, so that it can be stopped. Worths
 * are whole numbers. With `isOneLookEnough` it gives up where the first quick look finds nothing; with
 * a `margin` it is content once no selection is worth so much more.
 */
export function* optimise(
  parts: readonly Part[],
  resources: Resources,
  start: Found | null = null,
  { isOneLookEnough = false, margin = 0 } = {},
): Generator<Optimum, Optimum> {
  let found = start
  // Worths are whole, so that a better plan is better by one; half of that is left for rounding.
  const least = (): number => (found ? found.value + Math.max(margin, 0.5) : -Infinity)
  const proven = (): Optimum => ({
    found,
    most: found ? found.value + margin : -Infinity,
    isProven: true,
  })
  const better = (next: Found | null): boolean => {
    if (!next || (found && next.value <= found.value)) return false
    found = next
    return true
  }
  /** With better prices, and without the columns that they rule out. */
  const bounded = (task: Task, times: number): Task => {
    const bound = lowBoundAmongNear(task, resources, found?.value ?? null, times)
    return narrowed({ parts: task.parts, bound }, least(), resources)
  }
  const firstLook = (task: Task): boolean => {
    const { found: first, isExhaustive } = searchStructures(
      task.parts,
      task.bound,
      resources,
      -Infinity,
      { mostSteps: stepsForFirst, isFirstEnough: true },
    )
    better(first)
    return isExhaustive
  }

  let task: Task = { parts, bound: firstBound(parts, resources) }
  if (task.bound.most === -Infinity) return { found: null, most: -Infinity, isProven: true }
  for (const times of found ? [] : rounds.first) {
    task = bounded(task, times)
    firstLook(narrowed(task, nearlyBest(task.bound), resources))
    if (!found && firstLook(task)) return { found, most: -Infinity, isProven: true }
    if (found) break
  }
  if (!found && isOneLookEnough) return { found, most: task.bound.most, isProven: false }
  yield { found, most: task.bound.most, isProven: false }
  if (task.bound.most >= least()) task = bounded(task, rounds.after)
  // A plan that was given may be far from the best; the better the one that is known, the less is looked at.
  if (start && task.bound.most >= least()) {
    firstLook(narrowed(task, nearlyBest(task.bound), resources))
    task = bounded(task, rounds.half)
  }

  // Little is looked at while only what is nearly worth the bound is looked for, and that is mostly where the best is.
  let most = task.bound.most
  if (most < least()) return proven()
  for (let reach = (most - least()) * firstReach; ; reach *= widening) {
    const floor = Math.max(least(), most - reach)
    const open: Task[] = [task]
    while (open.length > 0) {
      const wanted = Math.max(floor, least())
      const next = narrowed(open.pop()!, wanted, resources)
      if (next.bound.most < wanted) continue
      const halves = split(next.parts)
      const mostSteps = halves.length > 0 ? stepsForExact : Infinity
      const exact = searchStructures(next.parts, next.bound, resources, wanted, { mostSteps })
      const isBetter = better(exact.found)
      if (!exact.isExhaustive) {
        const tasks = halves.map((half) =>
          bounded({ parts: half, bound: boundAt(half, next.bound.prices, resources) }, rounds.half),
        )
        // The more promising half is looked at first, so it is put on top.
        tasks.sort((a, b) => a.bound.most - b.bound.most)
        open.push(...tasks.filter(({ bound }) => bound.most >= wanted))
      }
      if (isBetter || open.length > 0) yield { found, most, isProven: false }
    }
    if (least() >= floor) break
    most = floor
  }
  return proven()
}
