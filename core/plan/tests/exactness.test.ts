import { beforeAll, describe, expect, it } from 'vitest'
import { solve } from '../search/solve'
import type { SolveProgram } from './integerProgram'
import { isDeep } from '../../../tests/tier'
import {
  hashOf,
  problemOfSeed,
  recordedAnswers,
  seedCount,
  solvedAnswer,
  solverOfPrograms,
} from './recordedAnswers'

const seeds = Array.from({ length: seedCount }, (_, index) => index + 1)
const recorded = recordedAnswers()

describe('a plan is the best there is, as recorded from an integer program solved by HiGHS', () => {
  it.each(seeds)('seed %i', (seed) => {
    const problem = problemOfSeed(seed)
    // Where the two differ, `npm run record-answers` records what changed anew.
    expect(hashOf(problem)).toBe(recorded[seed]?.hash)
    const { solution, status } = solve(problem)
    expect(status.name).toBe(solution ? 'optimal' : 'infeasible')
    expect(solution?.worth ?? null).toEqual(recorded[seed]?.worth)
  })
})

/** In deep runs another twentieth every day, so that a record that is wrong is found; all with SOLVE_ALL=1. */
const days = Math.floor(Date.now() / 86_400_000)
const solvedAnew = seeds.filter(
  (seed) => process.env.SOLVE_ALL === '1' || (isDeep && seed % 20 === days % 20),
)

describe.skipIf(solvedAnew.length === 0)('what is recorded is what HiGHS says', () => {
  let solveProgram: SolveProgram
  beforeAll(async () => {
    solveProgram = await solverOfPrograms()
  })

  it.each(solvedAnew)('seed %i', (seed) => {
    expect(solvedAnswer(problemOfSeed(seed), solveProgram)).toEqual(recorded[seed])
  })
})
