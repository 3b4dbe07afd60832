import { newShow } from '@green-mantle/core/show'
import fc from 'fast-check'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { useShowHistory } from '~/stores/showHistory'

let last = 0
const first = newShow(() => `id-${(last += 1)}`, { startsAt: '2026-12-01T20:00', timeZone: 'UTC' })

const begun = (isOpen = ref(true)) => {
  const afterChange = vi.fn()
  const history = useShowHistory(isOpen, afterChange)
  history.begin(first)
  return { history, afterChange }
}

beforeEach(() => vi.useFakeTimers())
afterEach(() => vi.useRealTimers())

describe('the history of a show', () => {
  const anyEdit = fc.record({
    title: fc.string({ minLength: 1, maxLength: 3 }),
    mergeKey: fc.constantFrom(undefined, 'drag', 'arrows'),
    pauseMilliseconds: fc.constantFrom(0, 1000),
    hasConsequence: fc.boolean(),
  })

  it('keeps a drag one step for as long as it is held, however late its edits come', () => {
    const { history } = begun()
    window.dispatchEvent(new Event('pointerdown'))
    for (const title of ['one', 'two', 'three']) {
      history.edit('Drag', (draft) => void (draft.title = title), { mergeKey: 'drag' })
      vi.advanceTimersByTime(3000)
    }
    window.dispatchEvent(new Event('pointerup'))
    vi.advanceTimersByTime(3000)
    history.undo()
    expect(history.show.value).toEqual(first)
    expect(history.canUndo.value).toBe(false)
  })

  it('leads back to where it began and forward to where it was, whatever was edited', () => {
    fc.assert(
      fc.property(fc.array(anyEdit, { minLength: 1, maxLength: 12 }), (edits) => {
        const { history } = begun()
        for (const { title, mergeKey, pauseMilliseconds, hasConsequence } of edits) {
          history.edit(
            `Call it ${title}`,
            (draft) => void (draft.title = title),
            mergeKey === undefined ? {} : { mergeKey },
          )
          if (hasConsequence)
            history.followUp((show) => ({ ...show, lineId: `line of ${show.title}` }))
          vi.advanceTimersByTime(pauseMilliseconds)
        }
        history.endMerge()
        const lastShow = history.show.value
        let steps = 0
        for (; history.canUndo.value; steps += 1) history.undo()
        expect(history.show.value).toEqual(first)
        expect(steps).toBeLessThanOrEqual(edits.length)
        for (let step = 0; step < steps; step += 1) history.redo()
        expect(history.canRedo.value).toBe(false)
        expect(history.show.value).toEqual(lastShow)
      }),
    )
  })

  it('tells of every change, and of none where nothing changed', () => {
    const { history, afterChange } = begun()
    history.edit('Nothing', () => {})
    expect(afterChange).toHaveBeenCalledTimes(0)
    history.edit('Rename', (draft) => void (draft.title = 'Another'))
    history.undo()
    history.undo()
    expect(afterChange).toHaveBeenCalledTimes(2)
  })

  it('says at once that a run of edits can be taken back, and that nothing can be brought again', () => {
    const { history } = begun()
    history.edit('Rename', (draft) => void (draft.title = 'Another'))
    history.undo()
    expect([history.canUndo.value, history.canRedo.value]).toEqual([false, true])
    history.edit('Move', (draft) => void (draft.title = 'Moved'), { mergeKey: 'arrows' })
    expect([history.canUndo.value, history.canRedo.value]).toEqual([true, false])
    history.undo()
    expect(history.show.value).toEqual(first)
  })

  it('carries no run of edits over to what is opened next', () => {
    const { history } = begun()
    history.edit('Move', (draft) => void (draft.title = 'Moved'), { mergeKey: 'arrows' })
    history.begin(first)
    vi.advanceTimersByTime(1000)
    expect(history.canUndo.value).toBe(false)
  })

  it('changes nothing while the show is not open', () => {
    const { history, afterChange } = begun(ref(false))
    history.edit('Rename', (draft) => void (draft.title = 'Another'))
    history.followUp((show) => ({ ...show, title: 'Another' }))
    expect(history.show.value).toBe(first)
    expect(afterChange).not.toHaveBeenCalled()
  })
})
