/**
 * Asking for what changes, one question at a time: who asks while one is on its way gets its answer.
 * After something was done `askAfresh` is right, since that answer may be of before.
 */
export function oneAtATime(question: () => Promise<void>): {
  ask: () => Promise<void>
  askAfresh: () => Promise<void>
} {
  let asked: Promise<void> | undefined
  const ask = (): Promise<void> => (asked ??= question().finally(() => (asked = undefined)))
  async function askAfresh(): Promise<void> {
    // What became of that one is for who asked it.
    await asked?.catch(() => {})
    await ask()
  }
  return { ask, askAfresh }
}
