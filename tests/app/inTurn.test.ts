import { describe, expect, it, vi } from 'vitest'
import { effectScope, shallowRef } from 'vue'
import { nextTurn, useInTurn, useTurns } from '~/composables/inTurn'

describe('turns', () => {
  it('come one a frame, in the order in which they were asked for', async () => {
    const order: string[] = []
    const countFrame = (): void => {
      order.push('frame')
      requestAnimationFrame(countFrame)
    }
    requestAnimationFrame(countFrame)
    await Promise.all(
      ['first', 'second', 'third'].map((name) => nextTurn().then(() => order.push(name))),
    )
    const turns = order.filter((each) => each !== 'frame')
    expect(turns).toEqual(['first', 'second', 'third'])
    for (const [index, name] of turns.entries())
      expect(
        order.slice(0, order.indexOf(name)).filter((each) => each === 'frame').length,
      ).toBeGreaterThan(index)
  })

  it('come although no frame is drawn, as in a page that nobody sees', async () => {
    const drawn = vi.spyOn(globalThis, 'requestAnimationFrame').mockReturnValue(0)
    await nextTurn()
    expect(drawn).toHaveBeenCalled()
    drawn.mockRestore()
  })

  it('are counted to the most that is wanted, and no further once it is left', async () => {
    const scope = effectScope()
    const [two, left] = [scope.run(() => useTurns(2))!, effectScope()]
    const never = left.run(() => useTurns(50))!
    await vi.waitFor(() => expect(two.value).toBe(2))
    left.stop()
    const reached = never.value
    for (let turn = 0; turn < 3; turn += 1) await nextTurn()
    expect(never.value).toBeLessThanOrEqual(reached + 1)
    expect(two.value).toBe(2)
    scope.stop()
  })
})

describe('a long list', () => {
  it('comes in pieces, from when there is any of it, and later entries at once', async () => {
    const entries = shallowRef<number[]>([])
    const scope = effectScope()
    const shown = scope.run(() => useInTurn(() => entries.value, 4))!
    expect(shown.value).toEqual([])
    entries.value = Array.from({ length: 10 }, (_, index) => index)
    expect(shown.value).toEqual([0, 1, 2, 3])
    await vi.waitFor(() => expect(shown.value).toHaveLength(10))
    await nextTurn()
    entries.value = [...entries.value, ...entries.value]
    expect(shown.value).toHaveLength(20)
    scope.stop()
  })
})
