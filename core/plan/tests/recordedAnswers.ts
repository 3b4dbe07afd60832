import { createHash } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import highsLoader from 'highs'
import type { Problem, Worth } from '../problem/problem'
import { showProblem } from '../problem/showProblem'
import { programText, type SolveProgram, worthByIntegerProgram } from './integerProgram'
import { withRelays } from './relayedShows'
import { randomShow } from './testShows'

/** How many problems are compared with what an integer program solver makes of them. */
export const seedCount = 370
/** From this seed on some of the destinations are alike but for their priority. */
const alikeFrom = 301
/** From this seed on several relays may feed them. */
const relayedFrom = 341

/** What HiGHS found for the problem of one seed; null where it has no plan. */
export interface RecordedAnswer {
  /** Of the problem and of the text of its integer program, SHA-256. */
  hash: string
  worth: Worth | null
}

const file = new URL('recordedAnswers.json', import.meta.url)

export const recordedAnswers = (): Record<string, RecordedAnswer> =>
  existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as Record<string, RecordedAnswer>) : {}

export function keepAnswers(answers: Record<string, RecordedAnswer>): void {
  const lines = Object.entries(answers)
    .sort(([a], [b]) => Number(a) - Number(b))
    .map(([seed, answer]) => `  "${seed}": ${JSON.stringify(answer)}`)
  writeFileSync(file, `{\n${lines.join(',\n')}\n}\n`)
}

/** The problem that a seed stands for. */
export function problemOfSeed(seed: number): Problem {
  const isEvery = (count: number): boolean => seed % count === 0
  const isRelayed = seed >= relayedFrom
  const show = randomShow(seed, {
    destinations: isRelayed ? 2 + (seed % 4) : 1 + (seed % 6),
    grain: 'coarse',
    relay: isEvery(3),
    recording: isEvery(4),
    pins: isEvery(2),
    alike: seed >= alikeFrom && !isRelayed,
  })
  return showProblem(isRelayed ? withRelays(show, seed) : show).problem
}

/** Maps as their entries, so that nothing of a problem is lost in the text. */
const problemText = (problem: Problem): string =>
  JSON.stringify(problem, (_, value: unknown) => (value instanceof Map ? [...value] : value))

export const hashOf = (problem: Problem): string =>
  createHash('sha256').update(problemText(problem)).update(programText(problem)).digest('hex')

/** A general solver of integer programs, made to prove what it says. */
export async function solverOfPrograms(): Promise<SolveProgram> {
  const highs = await highsLoader()
  return (text) => {
    const solved = highs.solve(text, { mip_rel_gap: 0, mip_abs_gap: 0.01 })
    return solved.Status === 'Optimal' ? { objective: solved.ObjectiveValue } : null
  }
}

export const solvedAnswer = (problem: Problem, solveProgram: SolveProgram): RecordedAnswer => ({
  hash: hashOf(problem),
  worth: worthByIntegerProgram(problem, solveProgram),
})
