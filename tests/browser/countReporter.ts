import { writeFileSync } from 'node:fs'
import { stripVTControlCharacters } from 'node:util'
import type { FullResult, Reporter, Suite, TestCase } from '@playwright/test/reporter'

const linesOfAnError = 12

const outcomes = { flaky: 'Passed when it was tried again', unexpected: 'Failed' } as const

/** The first lines of what each try of a test failed on. */
function failureInWords(test: TestCase, outcome: string): string {
  const errors = test.results.flatMap(({ errors }) => errors)
  const words = errors.map(({ message = 'no message' }) =>
    stripVTControlCharacters(message).split('\n').slice(0, linesOfAnError).join('\n'),
  )
  return [`${outcome}: ${test.titlePath().join(' › ')}`, ...words].join('\n')
}

/**
 * Leaves the counts where the script that runs everything reads them, and says last of all on what tests
 * failed, or had to be tried again: of a long output often only the end is kept.
 */
export default class CountReporter implements Reporter {
  private suite: Suite | undefined

  onBegin(_config: unknown, suite: Suite): void {
    this.suite = suite
  }

  onEnd(_result: FullResult): void {
    // What failed for good stands last.
    for (const outcome of ['flaky', 'unexpected'] as const)
      for (const test of this.suite?.allTests() ?? [])
        if (test.outcome() === outcome)
          process.stdout.write(`\n${failureInWords(test, outcomes[outcome])}\n`)
    const file = process.env.GREEN_MANTLE_TEST_COUNTS
    if (!file || !this.suite) return
    const all = this.suite.allTests().map((test) => test.outcome())
    const passed = all.filter((outcome) => outcome === 'expected' || outcome === 'flaky').length
    const skipped = all.filter((outcome) => outcome === 'skipped').length
    writeFileSync(file, JSON.stringify({ passed, failed: all.length - passed - skipped }))
  }
}
