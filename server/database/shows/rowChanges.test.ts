import { demoShow } from '@green-mantle/demo'
import { describe, expect, it } from 'vitest'
import { rowChanges } from './rowChanges'
import { rowsFromShow, showFromRows } from './rows'

describe('row changes', () => {
  const before = [
    { id: 'a', name: 'One' },
    { id: 'b', name: 'Two' },
  ]

  it('are none between the same rows, whatever their order', () => {
    expect(rowChanges(before, before.toReversed(), ['id'])).toEqual({ removed: [], written: [] })
  })

  it('name what is removed, added and altered', () => {
    const after = [
      { id: 'b', name: 'Second' },
      { id: 'c', name: 'Three' },
    ]
    expect(rowChanges(before, after, ['id'])).toEqual({ removed: [before[0]], written: after })
  })

  it('match by all key columns together', () => {
    const first = [{ scene: 's', id: 'a', x: 1 }]
    const second = [{ scene: 't', id: 'a', x: 1 }]
    expect(rowChanges(first, second, ['scene', 'id'])).toEqual({ removed: first, written: second })
  })
})

describe('rows of a show', () => {
  it('make the same show again', () => {
    expect(showFromRows(rowsFromShow(demoShow))).toEqual(demoShow)
  })

  it('are refused where they make no valid show', () => {
    const rows = rowsFromShow(demoShow)
    expect(() => showFromRows({ ...rows, sources: [] })).toThrow(/there is no source/)
  })
})
