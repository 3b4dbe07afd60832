import { demoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { verdictOf } from '../fit'
import { destination, show } from '../fit/testShows'
import type { OrderChanges } from '../night'
import { lineOf, newScene, type Show } from '../show'
import { stepMarks } from './stepMarks'

describe('the marks of the steps', () => {
  it('say how far each step is', () => {
    const marks = (each: Show) => stepMarks(each, verdictOf(each), { keys: null, now: new Date() })
    expect(marks(demoShow)).toMatchObject({
      canvases: { state: 'settled' },
      sound: { state: 'settled' },
      line: { state: 'settled' },
      // Commonhall wants an account, which no file can bring along.
      destinations: {
        state: 'attention',
        words: expect.stringContaining('Commonhall is not linked'),
      },
      fit: { state: 'settled' },
    })
    const empty = { ...show(1, []), scenes: [newScene('s', 'S')] }
    expect(marks({ ...empty, lines: [{ ...lineOf(empty), samples: [] }] })).toMatchObject({
      canvases: { state: 'not begun' },
      line: { state: 'not begun' },
      destinations: { state: 'not begun' },
      fit: { state: 'not begun' },
    })
    expect(marks(show(100, [destination()]))).toMatchObject({
      line: { state: 'attention' },
      fit: { state: 'attention' },
    })
  })

  it('of the run sheet says whether the show changed since it was looked through', () => {
    const mark = (show: Show, orderChanges: OrderChanges | null) =>
      stepMarks(show, verdictOf(show), { keys: null, now: new Date(), orderChanges })['run-sheet']
    expect(mark(demoShow, null).state).toBe('not begun')
    const looked: Show = { ...demoShow, runSheet: { ...demoShow.runSheet, seen: [] } }
    expect(mark(looked, null).state).toBe('settled')
    expect(mark(looked, { added: [], gone: [], moved: [] }).state).toBe('settled')
    expect(mark(looked, { added: ['A task'], gone: [], moved: [] }).state).toBe('attention')
  })
})
