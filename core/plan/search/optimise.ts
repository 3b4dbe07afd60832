import { boundAt, findingBound } from './bounds'
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
  /** At the prices found, whatever the search has ruled out since: no way to serve everybody, one by one or in parts, is worth more. */
  mostAtPrices: number
  isProven: boolean
}

/** How much more a plan may still be worth than the one that is taken. */
export interface ProofMargin {
  atFirst: number
  atLast: number
}
const exactly: ProofMargin = { atFirst: 0, atLast: 0 }
/** So many steps, a few tenths of a second, are spent on the smaller margin. */
const patience = 3000

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
 * a `margin` it is content once no selection is worth so much more: little at first, and where that takes
 * long more.
 */
export function* optimise(
  parts: readonly Part[],
  resources: Resources,
  start: Found | null = null,
  { isOneLookEnough = false, margin = exactly } = {},
): Generator<Optimum, Optimum> {
  let found = start
  // Worths are whole, so that a better plan is better by one; half of that is left for rounding.
  const least = (): number => (found ? found.value + Math.max(within(), 0.5) : -Infinity)
  let steps = 0
  const within = (): number => (steps < patience ? margin.atFirst : margin.atLast)
  let mostAtPrices = Infinity
  const proven = (): Optimum => ({
    found,
    most: found ? found.value + within() : -Infinity,
    mostAtPrices,
    isProven: true,
  })
  const better = (next: Found | null): boolean => {
    if (!next || (found && next.value <= found.value)) return false
    found = next
    return true
  }
  /** With better prices, and without the columns that they rule out. */
  function* bounded(open: Task, times: number): Generator<void, Task> {
    const bound = yield* lowBoundAmongNear(open, resources, found?.value ?? null, times)
    return yield* narrowed({ parts: open.parts, bound }, least(), resources)
  }
  function* firstLook(given: Task, nearly = false): Generator<void, boolean> {
    const open = nearly ? yield* narrowed(given, nearlyBest(given.bound), resources) : given
    const { found: first, isExhaustive } = yield* searchStructures(
      open.parts,
      open.bound,
      resources,
      -Infinity,
      { mostSteps: stepsForFirst, isFirstEnough: true },
    )
    better(first)
    return isExhaustive
  }
  let most = Infinity
  /** Lets others in between, with what is known so far. */
  function* steadily<Last>(run: Generator<void, Last>): Generator<Optimum, Last> {
    for (;;) {
      const { value, done } = run.next()
      if (done) return value
      steps += 1
      yield { found, most, mostAtPrices, isProven: false }
    }
  }

  let task: Task = { parts, bound: yield* steadily(firstBound(parts, resources)) }
  most = task.bound.most
  if (task.bound.most === -Infinity)
    return { found: null, most: -Infinity, mostAtPrices: -Infinity, isProven: true }
  for (const times of found ? [] : rounds.first) {
    task = yield* steadily(bounded(task, times))
    most = task.bound.most
    yield* steadily(firstLook(task, true))
    if (!found && (yield* steadily(firstLook(task)))) return proven()
    if (found) break
  }
  if (!found && isOneLookEnough)
    return { found, most: task.bound.most, mostAtPrices, isProven: false }
  yield { found, most: task.bound.most, mostAtPrices, isProven: false }
  if (task.bound.most >= least()) task = yield* steadily(bounded(task, rounds.after))
  // A plan that was given may be far from the best; the better the one that is known, the less is looked at.
  if (start && task.bound.most >= least()) {
    yield* steadily(firstLook(task, true))
    task = yield* steadily(bounded(task, rounds.half))
  }

  // Little is looked at while only what is nearly worth the bound is looked for, and that is mostly where the best is.
  mostAtPrices = (yield* steadily(findingBound(parts, task.bound.prices, resources))).most
  most = task.bound.most
  if (most < least()) return proven()
  for (let reach = (most - least()) * firstReach; ; reach *= widening) {
    const floor = Math.max(least(), most - reach)
    const open: Task[] = [task]
    while (open.length > 0) {
      const wanted = Math.max(floor, least())
      const next = yield* steadily(narrowed(open.pop()!, wanted, resources))
      if (next.bound.most < wanted) continue
      const halves = split(next.parts)
      const mostSteps = halves.length > 0 ? stepsForExact : Infinity
      const exact = yield* steadily(
        searchStructures(next.parts, next.bound, resources, wanted, { mostSteps }),
      )
      const isBetter = better(exact.found)
      if (!exact.isExhaustive) {
        const tasks: Task[] = []
        for (const half of halves) {
          const bound = boundAt(half, next.bound.prices, resources)
          tasks.push(yield* steadily(bounded({ parts: half, bound }, rounds.half)))
        }
        // The more promising half is looked at first, so it is put on top.
        tasks.sort((a, b) => a.bound.most - b.bound.most)
        open.push(...tasks.filter(({ bound }) => bound.most >= wanted))
      }
      if (isBetter || open.length > 0) yield { found, most, mostAtPrices, isProven: false }
    }
    if (least() >= floor) break
    most = floor
  }
  return proven()
}
