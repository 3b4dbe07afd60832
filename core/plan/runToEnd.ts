/** Runs what could be stopped to its end. */
export function runToEnd<Last>(run: Generator<unknown, Last>): Last {
  for (;;) {
    const step = run.next()
    if (step.done) return step.value
  }
}
