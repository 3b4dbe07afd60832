import highsLoader from 'highs'
import { type SolveProgram, worthByIntegerProgram } from '../core/plan/integerProgram'
import { showProblem } from '../core/plan/showProblem'
import { solving } from '../core/plan/solve'
import { randomShow } from '../core/plan/testShows'
import type { Area, Figure } from './figure'

/** How many problems there are of each number of destinations; more destinations take longer. */
const counts = { 2: 20, 4: 20, 8: 20, 12: 20, 20: 8 } as const
/** HiGHS lists every choice, which at full bitrates takes it minutes and gigabytes; so it gets coarser shows. */
const besideHighs = [2, 4, 6]
const besideHighsCount = 4
const highsSeconds = 60

const quantile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[
    Math.min(values.length - 1, Math.floor(values.length * share))
  ] ?? 0

/**
 * Time to a proven optimum for shows made by chance, on both canvases, with three devices, pins and
 * a relay; and, on shows with few bitrates and devices, how many times longer HiGHS takes for an
 * integer program of the same problems in the same run.
 */
const area: Area = async () => {
  const figures: Figure[] = []
  for (const [size, count] of Object.entries(counts)) {
    const destinations = Number(size)
    const [times, firsts]: number[][] = [[], []]
    let proven = 0
    for (let seed = 1; seed <= count; seed += 1) {
      const show = randomShow(1000 * destinations + seed, {
        destinations,
        grain: 'fine',
        relay: true,
        recording: seed % 2 === 0,
        pins: true,
      })
      const start = performance.now()
      const { problem } = showProblem(show)
      let first: number | null = null
      const run = solving(problem)
      let step = run.next()
      for (; !step.done; step = run.next())
        if (step.value.solution) first ??= performance.now() - start
      const milliseconds = performance.now() - start
      times!.push(milliseconds)
      firsts!.push(first ?? milliseconds)
      if (step.value.isProven) proven += 1
    }
    const name = `${size}_destinations`
    figures.push(
      { name: `${name}_median`, value: quantile(times!, 0.5), unit: 'ms' },
      { name: `${name}_p95`, value: quantile(times!, 0.95), unit: 'ms' },
      { name: `${name}_first_plan_median`, value: quantile(firsts!, 0.5), unit: 'ms' },
      { name: `${name}_proven`, value: proven / count, unit: 'share' },
    )
  }
  figures.push(...(await highsFigures()))
  figures.push({ name: 'memory', value: process.memoryUsage().heapUsed / 1e6, unit: 'MB' })
  return figures
}
/** How many times longer HiGHS takes, where it proves its optimum in time. */
export async function highsFigures(): Promise<Figure[]> {
  const highs = await highsLoader()
  const solveProgram: SolveProgram = (text) => {
    const solved = highs.solve(text, { time_limit: highsSeconds })
    return solved.Status === 'Optimal' ? { objective: solved.ObjectiveValue } : null
  }
  return besideHighs.map((destinations): Figure => {
    const ratios: number[] = []
    for (let seed = 1; seed <= besideHighsCount; seed += 1) {
      const show = randomShow(seed, { destinations, grain: 'coarse', relay: true, pins: true })
      const start = performance.now()
      const { problem } = showProblem(show)
      const run = solving(problem)
      while (!run.next().done);
      const ours = performance.now() - start
      const since = performance.now()
      if (worthByIntegerProgram(problem, solveProgram))
        ratios.push((performance.now() - since) / ours)
    }
    const name = `highs_over_ours_${destinations}_destinations_coarse`
    return { name, value: quantile(ratios, 0.5), unit: 'times' }
  })
}

export default area
