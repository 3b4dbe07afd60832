import { writeFileSync } from 'node:fs'
import { stripVTControlCharacters } from 'node:util'
import type { FullResult, Reporter, Suite, TestCase } from '@playwright/test/reporter'

const linesOfAnError = 12

/** A test, and the first lines of what each try of it failed on. */
function failureInWords(test: TestCase): string {
  const errors = test.results.flatMap(({ errors }) => errors)
  const words = errors.map(({ message = 'no message' }) =>
    stripVTControlCharacters(message).split('\n').slice(0, linesOfAnError).join('\n'),
  )
  return [test.titlePath().filter(Boolean).join(' › '), ...words].join('\n')
}

/** Leaves the counts, and what failed, where the script that runs everything reads them. */
export default class CountReporter implements Reporter {
  private suite: Suite | undefined

  onBegin(_config: unknown, suite: Suite): void {
    this.suite = suite
  }

  onEnd(_result: FullResult): void {
    const all = this.suite?.allTests() ?? []
    const of = (outcome: ReturnType<TestCase['outcome']>) =>
      all.filter((test) => test.outcome() === outcome)
    for (const test of of('flaky'))
      process.stdout.write(`\nPassed when it was tried again: ${failureInWords(test)}\n`)
    const file = process.env.GREEN_MANTLE_TEST_COUNTS
    if (!file) return
    const passed = of('expected').length + of('flaky').length
    const failed = all.length - passed - of('skipped').length
    const failures = of('unexpected').map(failureInWords)
    writeFileSync(file, JSON.stringify({ passed, failed, failures }))
  }
}
