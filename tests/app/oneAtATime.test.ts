import { describe, expect, it } from 'vitest'
import { oneAtATime } from '~/api/oneAtATime'

/** A question whose answers are given by hand, in the order in which it was asked. */
function askedByHand() {
  const answers: { resolve: () => void; reject: (error: Error) => void }[] = []
  const question = (): Promise<void> =>
    new Promise((resolve, reject) => void answers.push({ resolve, reject }))
  return { answers, ...oneAtATime(question) }
}
const soon = (): Promise<void> => new Promise((resolve) => setTimeout(resolve))

describe('what is asked for one at a time', () => {
  it('is asked once for all who ask meanwhile, and again after that', async () => {
    const { answers, ask } = askedByHand()
    const [first, second] = [ask(), ask()]
    expect(answers).toHaveLength(1)
    answers[0]?.resolve()
    await Promise.all([first, second])
    void ask()
    expect(answers).toHaveLength(2)
  })

  it('is asked again after what was on its way, since that may be of before', async () => {
    const { answers, ask, askAfresh } = askedByHand()
    void ask()
    let isFresh = false
    void askAfresh().then(() => (isFresh = true))
    answers[0]?.resolve()
    await soon()
    expect(isFresh).toBe(false)
    expect(answers).toHaveLength(2)
    answers[1]?.resolve()
    await soon()
    expect(isFresh).toBe(true)
  })

  it('is asked again though what was on its way failed, which only its own asker is told', async () => {
    const { answers, ask, askAfresh } = askedByHand()
    const first = ask()
    const afresh = askAfresh()
    answers[0]?.reject(new Error('no line'))
    await expect(first).rejects.toThrow('no line')
    await soon()
    answers[1]?.resolve()
    await expect(afresh).resolves.toBeUndefined()
  })
})
