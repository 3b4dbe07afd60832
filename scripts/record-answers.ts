import {
  hashOf,
  keepAnswers,
  problemOfSeed,
  type RecordedAnswer,
  recordedAnswers,
  seedCount,
  solvedAnswer,
  solverOfPrograms,
} from '../core/plan/tests/recordedAnswers'
import { main } from './run'

/** `npm run record-answers`: solves what has no recorded answer, or another problem's; with `-- all`, everything. */
main(async () => {
  const isAll = process.argv.includes('all')
  const solveProgram = await solverOfPrograms()
  const answers: Record<string, RecordedAnswer> = isAll ? {} : recordedAnswers()
  for (let seed = 1; seed <= seedCount; seed += 1) {
    const problem = problemOfSeed(seed)
    if (answers[seed]?.hash === hashOf(problem)) continue
    const start = performance.now()
    answers[seed] = solvedAnswer(problem, solveProgram)
    // Kept as it goes, so that a run that is cut off can be gone on with.
    keepAnswers(answers)
    console.log(`seed ${seed}: ${Math.round(performance.now() - start)} ms`)
  }
})
