import highsLoader from 'highs'
import { type SolveProgram, worthByIntegerProgram } from '../core/plan/tests/integerProgram'
import { showProblem } from '../core/plan/problem/showProblem'
import { solving } from '../core/plan/search/solve'
import { randomShow } from '../core/plan/tests/testShows'
import type { PlannedShow } from '../core/plan/problem/wishes'
import type { Destination } from '../core/show'
import type { Area, Figure } from './figure'

/** How many problems there are of each number of destinations; more destinations take longer. */
const counts = { 2: 20, 4: 20, 8: 20, 12: 20, 20: 8, 30: 3 } as const
/**
 * HiGHS lists every choice, which takes it a minute and more; so it gets few of the same problems, and
 * some of coarser shows, which it finishes.
 */
const besideHighs = [
  { destinations: 2, grain: 'fine', count: 3 },
  { destinations: 4, grain: 'fine', count: 3 },
  { destinations: 8, grain: 'fine', count: 1 },
  { destinations: 2, grain: 'coarse', count: 4 },
  { destinations: 4, grain: 'coarse', count: 4 },
  { destinations: 6, grain: 'coarse', count: 4 },
] as const
const highsSeconds = 60

const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[
    Math.min(values.length - 1, Math.floor(values.length * share))
  ] ?? 0

/** The shows that are planned: on both canvases, with three devices, pins and a relay. */
const showFor = (destinations: number, seed: number, grain: 'fine' | 'coarse' = 'fine') =>
  randomShow(1000 * destinations + seed, {
    ...{ destinations, grain, relay: true, pins: true },
    recording: seed % 2 === 0,
  })

const alike = (count: number, relay: boolean): PlannedShow => {
  const show = randomShow(1, { destinations: 1, grain: 'fine', relay })
  const [first, ...relays] = show.destinations as [Destination, ...Destination[]]
  const plan = { ...first.plan, routePinned: !relay }
  const sends = Array.from({ length: count }, (_, index) => ({
    ...{ ...first, plan, canvas: 'landscape' as const },
    ...{ id: `alike-${index}`, name: `Place ${index + 1}` },
  }))
  const fed = relays.map((each) => ({ ...each, rules: { ...each.rules, mostFed: count } }))
  const [line] = show.lines as [PlannedShow['lines'][number]]
  const samples = line.samples.map((sample) => ({ ...sample, uploadKbps: 2500 * count }))
  return { ...show, destinations: [...sends, ...fed], lines: [{ ...line, samples }] }
}

/** Shows in which many can be told apart by nothing, or are fed by one relay. */
const manyAlike: Record<string, PlannedShow> = Object.fromEntries([
  ...[8, 12, 16, 20, 50].map((count) => [`${count}_identical`, alike(count, false)]),
  ...[12, 20, 30].map((count) => [`relay_feeding_${count}`, alike(count, true)]),
])
/** Beyond this a plan is taken as it is. */
const mostSeconds = 5

/** Milliseconds to the first plan and to the one that is proven to be the best. */
function timed(show: PlannedShow): {
  first: number
  all: number
  longestStep: number
  isProven: boolean
} {
  const start = performance.now()
  const { problem } = showProblem(show)
  let first: number | null = null
  const run = solving(problem)
  let longestStep = 0
  for (;;) {
    const since = performance.now()
    const { value, done } = run.next()
    longestStep = Math.max(longestStep, performance.now() - since)
    const all = performance.now() - start
    if (value.solution) first ??= all
    if (done || all > mostSeconds * 1000)
      return { first: first ?? all, all, longestStep, isProven: value.isProven }
  }
}

/**
 * Time to a first plan and to a proven optimum for shows made by chance; and how many times longer
 * HiGHS takes for an integer program of the same problems in the same run.
 */
const area: Area = async () => {
  const figures: Figure[] = []
  for (const [size, count] of Object.entries(counts)) {
    const runs = Array.from({ length: count }, (_, index) =>
      timed(showFor(Number(size), index + 1)),
    )
    const all = runs.map((run) => run.all)
    const first = runs.map((run) => run.first)
    const proven = runs.filter(({ isProven }) => isProven).length / count
    const name = `${size}_destinations`
    figures.push(
      { name: `${name}_median`, value: quantile(all, 0.5), unit: 'ms' },
      { name: `${name}_p95`, value: quantile(all, 0.95), unit: 'ms' },
      { name: `${name}_first_plan_median`, value: quantile(first, 0.5), unit: 'ms' },
      {
        name: `${name}_longest_step`,
        value: Math.max(...runs.map((run) => run.longestStep)),
        unit: 'ms',
      },
      { name: `${name}_proven`, value: proven, unit: 'share' },
    )
  }
  for (const [name, show] of Object.entries(manyAlike)) {
    const { first, all, longestStep, isProven } = timed(show)
    figures.push(
      { name, value: all, unit: 'ms' },
      { name: `${name}_first_plan`, value: first, unit: 'ms' },
      { name: `${name}_longest_step`, value: longestStep, unit: 'ms' },
      { name: `${name}_proven`, value: Number(isProven), unit: 'share' },
    )
  }
  figures.push({ name: 'memory', value: process.memoryUsage().heapUsed / 1e6, unit: 'MB' })
  // It takes most of the time of the whole area.
  if (process.env.BESIDE_HIGHS === '1') figures.push(...(await highsFigures()))
  return figures
}

/** How many times longer HiGHS takes where it proves its optimum in time, and on which share of the problems it does. */
async function highsFigures(): Promise<Figure[]> {
  const highs = await highsLoader()
  const figures: Figure[] = []
  for (const { destinations, grain, count } of besideHighs) {
    const ratios: number[] = []
    for (let seed = 1; seed <= count; seed += 1) {
      const show = showFor(destinations, seed, grain)
      const { all } = timed(show)
      const since = performance.now()
      const solveProgram: SolveProgram = (text) => {
        const leftSeconds = highsSeconds - (performance.now() - since) / 1000
        if (leftSeconds <= 0) return null
        const solved = highs.solve(text, { time_limit: leftSeconds })
        return solved.Status === 'Optimal' ? { objective: solved.ObjectiveValue } : null
      }
      if (worthByIntegerProgram(showProblem(show).problem, solveProgram))
        ratios.push((performance.now() - since) / all)
    }
    const name = `highs_${destinations}_destinations_${grain}`
    figures.push({ name: `${name}_finished`, value: ratios.length / count, unit: 'share' })
    if (ratios.length > 0)
      figures.push({ name: `${name}_over_ours`, value: quantile(ratios, 0.5), unit: 'times' })
  }
  return figures
}

export default area
