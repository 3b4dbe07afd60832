import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope } from 'vue'
import { useOwnTask } from '~/composables/ownTask'

beforeEach(() => vi.useFakeTimers())
afterEach(() => vi.useRealTimers())

describe('work in a task of its own', () => {
  const started = () => {
    const work = vi.fn()
    const scope = effectScope()
    return { work, scope, task: scope.run(() => useOwnTask<number>(work))! }
  }

  it('is done for the newest value alone, and not within the event', () => {
    const { work, task } = started()
    for (const value of [1, 2, 3]) task.later(value)
    expect(work).not.toHaveBeenCalled()
    vi.runAllTimers()
    expect(work.mock.calls).toEqual([[3]])
    task.later(4)
    vi.runAllTimers()
    expect(work.mock.calls).toEqual([[3], [4]])
  })

  it('is done at once at the end of a drag, and only once', () => {
    const { work, task } = started()
    task.later(5)
    task.finish()
    expect(work.mock.calls).toEqual([[5]])
    task.finish()
    vi.runAllTimers()
    expect(work).toHaveBeenCalledTimes(1)
  })

  it('is not lost when its control goes away', () => {
    const { work, scope, task } = started()
    task.later(6)
    scope.stop()
    expect(work.mock.calls).toEqual([[6]])
  })
})
