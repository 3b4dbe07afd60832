import type { Happening, NewNightEvent } from '@green-mantle/core/night'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { NightLogger } from './nightLogger'

const note = (text: string): Happening => ({ kind: 'noted', text })
const textOf = ({ happening }: NewNightEvent): string =>
  happening.kind === 'noted' ? happening.text : happening.kind

beforeEach(() => {
  vi.useFakeTimers()
  for (const way of ['warn', 'error'] as const) vi.spyOn(console, way).mockImplementation(() => {})
})
afterEach(() => {
  vi.useRealTimers()
  vi.restoreAllMocks()
})

describe('what the sender has to log', () => {
  it('waits while it cannot be kept, and comes late, in its order and as old as it is', async () => {
    const kept: NewNightEvent[] = []
    let isAway = true
    const logger = new NightLogger((events) => {
      if (isAway) return Promise.reject(new Error('away'))
      kept.push(...events)
      return Promise.resolve()
    })
    logger.log(note('first'))
    await vi.advanceTimersByTimeAsync(30_000)
    logger.log(note('second'))
    await vi.advanceTimersByTimeAsync(30_000)
    expect(kept).toEqual([])
    isAway = false
    await vi.advanceTimersByTimeAsync(20_000)
    expect(kept.map(textOf)).toEqual(['first', 'second'])
    const [first, second] = kept.map(({ agoSeconds }) => agoSeconds) as [number, number]
    expect(first).toBeGreaterThanOrEqual(60)
    expect(first - second).toBeCloseTo(30, 1)
  })

  it('tells a length by a clock that nobody sets', async () => {
    const kept: NewNightEvent[] = []
    let isAway = true
    const logger = new NightLogger((events) => {
      if (isAway) return Promise.reject(new Error('away'))
      kept.push(...events)
      return Promise.resolve()
    })
    logger.log(note('before the clock was set back'))
    vi.setSystemTime(Date.now() - 3_600_000)
    isAway = false
    await vi.advanceTimersByTimeAsync(20_000)
    expect(kept[0]!.agoSeconds).toBeGreaterThanOrEqual(0)
    expect(kept[0]!.agoSeconds).toBeLessThan(30)
  })

  it('is left out where the log could not be read with it, and the rest is kept', async () => {
    const kept: NewNightEvent[] = []
    const logger = new NightLogger((events) => Promise.resolve(void kept.push(...events)))
    logger.log({ kind: 'recorded', name: 'Archive', file: 'a.mkv', seconds: -3, megabytes: 1 })
    logger.log(note('afterwards'))
    await logger.settled(1000)
    expect(kept.map(textOf)).toEqual(['afterwards'])
  })

  it('does not hold up who waits for it longer than that', async () => {
    const logger = new NightLogger(() => Promise.reject(new Error('away')))
    logger.log(note('first'))
    let isSettled = false
    void logger.settled(3000).then(() => (isSettled = true))
    await vi.advanceTimersByTimeAsync(2900)
    expect(isSettled).toBe(false)
    await vi.advanceTimersByTimeAsync(200)
    expect(isSettled).toBe(true)
  })
})
