import highsLoader from 'highs'
import { beforeAll, describe, expect, it } from 'vitest'
import { type SolveProgram, worthByIntegerProgram } from './integerProgram'
import { showProblem } from '../problem/showProblem'
import { solve } from '../search/solve'
import { randomShow } from './testShows'

let solveProgram: SolveProgram

beforeAll(async () => {
  const highs = await highsLoader()
  solveProgram = (text) => {
    const solved = highs.solve(text, { mip_rel_gap: 0, mip_abs_gap: 0.01 })
    return solved.Status === 'Optimal' ? { objective: solved.ObjectiveValue } : null
  }
})

const isEvery = (seed: number, count: number): boolean => seed % count === 0

describe('a plan is the best there is', () => {
  const seeds = Array.from({ length: Number(process.env.SEEDS ?? 300) }, (_, index) => index + 1)
  it.each(seeds)('as an integer program solved by HiGHS says, seed %i', (seed) => {
    const show = randomShow(seed, {
      destinations: 1 + (seed % 6),
      grain: 'coarse',
      relay: isEvery(seed, 3),
      recording: isEvery(seed, 4),
      pins: isEvery(seed, 2),
    })
    const { problem } = showProblem(show)
    const { solution, isProven } = solve(problem)
    expect(isProven).toBe(true)
    expect(solution?.worth ?? null).toEqual(worthByIntegerProgram(problem, solveProgram))
  })
})
