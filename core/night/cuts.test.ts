import { describe, expect, it } from 'vitest'
import { cutsOf } from './cuts'
import type { Happening, NightEvent } from './nightEvents'
import { nightState } from './nightState'

const zero = Date.parse('2026-12-12T21:00:00.000Z')
const at = (seconds: number): string => new Date(zero + seconds * 1000).toISOString()
const night = (happenings: [number, Happening][]) =>
  nightState(
    happenings.map(([seconds, happening], index): NightEvent => ({
      ...{ id: `${index}`, sequence: index + 1, who: '', at: at(seconds), happening },
    })),
  )
const marked = (markId: string, backSeconds: number, name = ''): Happening => ({
  ...{ kind: 'marked', markId, name, sceneId: null, backSeconds },
})
const recorded = (
  file: string,
  startedAt: string | undefined,
  seconds: number | null,
): Happening => ({
  ...{ kind: 'recorded', name: 'Archive', file, seconds, megabytes: 5, startedAt },
})

describe('stretches of a recording', () => {
  // By hand: recorded from 10 s before the start for 600 s; the last 30 s at 100 s are 80 to 110 of the file.
  it('lie where they were marked, by the clock', () => {
    const state = night([
      [100, marked('a', 30, 'Bloom')],
      [590, recorded('/r/archive.mkv', at(-10), 600)],
    ])
    expect(cutsOf(state)).toEqual([
      { file: '/r/archive.mkv', name: 'Bloom', fromSeconds: 80, lengthSeconds: 30 },
    ])
  })

  it('are cut where the recording begins or ends, and left out where it holds nothing of them', () => {
    const state = night([
      [5, marked('early', 30)],
      [40, marked('moment', 0)],
      [70, marked('late', 30)],
      [300, marked('after', 30)],
      [310, recorded('/r/first.mkv', at(0), 60)],
      [310, recorded('/r/second.mkv', at(62), 60)],
    ])
    expect(
      cutsOf(state).map(({ file, fromSeconds, lengthSeconds }) => [
        file,
        fromSeconds,
        lengthSeconds,
      ]),
    ).toEqual([
      ['/r/first.mkv', 0, 5],
      ['/r/first.mkv', 40, 20],
      ['/r/second.mkv', 0, 8],
    ])
  })

  it('are none of a recording whose length or beginning is not known, nor of a mark that was removed', () => {
    const state = night([
      [100, marked('a', 30)],
      [110, marked('b', 30)],
      [120, { kind: 'mark removed', markId: 'b' }],
      [200, recorded('/r/one.mkv', undefined, 200)],
      [200, recorded('/r/two.mkv', at(0), null)],
    ])
    expect(cutsOf(state)).toEqual([])
    expect(cutsOf(night([[110, { kind: 'mark removed', markId: 'b' }]]))).toEqual([])
  })

  it('are bounded, whatever stands in the log', () => {
    const many = <Item>(count: number, make: (index: number) => Item): Item[] =>
      Array.from({ length: count }, (_, index) => make(index))
    const state = night([
      ...many(3000, (index): [number, Happening] => [100, marked(`m${index}`, 30)]),
      ...many(3000, (index): [number, Happening] => [200, recorded(`/r/${index}.mkv`, at(0), 200)]),
    ])
    expect(cutsOf(state).length).toBeLessThanOrEqual(500)
  })
})
